import type { AsideMail, CountedMail } from '../../contract/incoming.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { MOST_CANCELLED_BEFORE, MOST_COUNTED_TOGETHER } from './limits.ts';

/** A letter as it came to one address. */
export interface MailToKeep {
  messageId: string;
  /** The address that it came to, as addressKey gives it. */
  recipient: string;
  /** What tells it from another letter that says to be the same. */
  digest: string;
  sender: string;
  subject: string;
  words: string;
  calendar: string | null;
}

/** What became of a letter. */
export interface Outcome {
  state: 'counted' | 'automatic' | 'bounced' | 'aside';
  /** Why it was put aside, or what was said of it. */
  reason: string;
  /** Why what was counted was believed, and what of it was not kept. */
  why: string;
  eventId: string | null;
  attendeeId: number | null;
  /** Whoever it came to at their own address, where it is put aside and of no meeting of here. */
  personId: number | null;
  /** Whom its sender sends in their place, and who is not asked yet. */
  sends: string | null;
  /** The UID of a meeting that it cancels, whose invitation has not come. */
  cancels: string | null;
  /** Whether it can be read once somebody says by whose clock its times are. */
  wantsClock: boolean;
}

export type IncomingMail = MailToKeep & Outcome;

/**
 * Keeps a letter as it came to one address, still to be settled. Another that takes the same waits until this
 * transaction ends.
 * @returns its number; null where it came to that address before
 */
export async function claimMail(
  tx: Transaction,
  mail: MailToKeep,
  now: number,
): Promise<string | null> {
  const { rows } = await tx.query<{ id: string }>(
    `insert into incoming_mail (received_at, message_id, recipient, digest, sender, subject, words,
                                calendar, state)
     select $1, $2, $3, $4, $5, $6, $7, $8, 'aside'
     -- What came before letters were told apart by their receivers.
     where not exists (select from incoming_mail where message_id = $2 and recipient = '' and digest = '')
     on conflict (message_id, recipient, digest) do nothing
     returning id`,
    [
      new Date(now),
      mail.messageId,
      mail.recipient,
      mail.digest,
      mail.sender,
      mail.subject,
      mail.words,
      mail.calendar,
    ],
  );
  return rows[0]?.id ?? null;
}

/** Writes what became of a letter. */
export async function settleMail(tx: Transaction, id: string, outcome: Outcome): Promise<void> {
  await tx.query(
    `update incoming_mail set state = $2, reason = $3, why = $4, event_id = $5, attendee_id = $6,
            person_id = $7, sends = $8, cancels = $9, wants_clock = $10
     where id = $1`,
    [
      id,
      outcome.state,
      outcome.reason,
      outcome.why,
      outcome.eventId,
      outcome.attendeeId,
      outcome.personId,
      outcome.sends,
      outcome.cancels,
      outcome.wantsClock,
    ],
  );
}

/** Calendar parts that cancelled a meeting to somebody before its invitation came, the latest first. */
export async function readCancelled(
  db: Database,
  uid: string,
  personId: number,
): Promise<string[]> {
  const { rows } = await db.query<{ calendar: string }>(
    `select calendar from incoming_mail
     where cancels = $1 and state = 'counted' and calendar is not null
       and recipient = (select lower(email) from person where subject_id = $2)
     order by received_at desc, id limit ${MOST_CANCELLED_BEFORE}`,
    [uid, personId],
  );
  return rows.map((row) => row.calendar);
}

/** Marks the last letter to somebody as one that did not reach them. */
export async function markBounced(
  tx: Transaction,
  attendeeId: number,
  failure: string,
  now: number,
): Promise<void> {
  await tx.query(
    `update mail set failed_at = $3, failure = $2
     where id = (select id from mail where attendee_id = $1 and sent_at is not null
                 order by created_at desc, id limit 1)`,
    [attendeeId, failure.slice(0, 500), new Date(now)],
  );
}

/** What is shown of mails put aside. @param canCount whether one can be counted by hand, in SQL */
const asideWhere = (owner: 'event_id' | 'person_id', canCount: string): string =>
  `select id, received_at as "receivedAt", sender, subject, words, reason, sends,
          wants_clock as "wantsClock",
          coalesce(${canCount}, false) as "canCount",
          sender <> '' and exists (
            select from incoming_mail other
            where other.${owner} = $1 and other.state = 'aside' and other.sender = incoming_mail.sender
              and other.sends is null and other.id <> incoming_mail.id)
            as "hasMore"
   from incoming_mail where state = 'aside' and ${owner} = $1
   order by received_at desc, id limit 50`;

const ASIDE_OF_MEETING = asideWhere('event_id', 'calendar is not null or sends is not null');
/** What comes to somebody's own address are invitations of meetings elsewhere; a file says nothing of itself. */
const ASIDE_OF_PERSON = asideWhere(
  'person_id',
  `calendar ~* '(^|\\n)METHOD:(REQUEST|CANCEL|ADD|PUBLISH)\\s' or calendar !~* '(^|\\n)METHOD[:;]'`,
);

/** Mails about a meeting that were put aside, the latest first. */
export async function readAside(db: Database, eventId: string): Promise<AsideMail[]> {
  const { rows } = await db.query<AsideMail>(ASIDE_OF_MEETING, [eventId]);
  return rows;
}

/** Mails to somebody's own address that were put aside, the latest first. */
export async function readAsideOf(db: Database, personId: number): Promise<AsideMail[]> {
  const { rows } = await db.query<AsideMail>(ASIDE_OF_PERSON, [personId]);
  return rows;
}

export interface AsideHeld {
  id: string;
  eventId: string | null;
  attendeeId: number | null;
  personId: number | null;
  sender: string;
  calendar: string | null;
  sends: string | null;
}

const HELD = `id, event_id as "eventId", attendee_id as "attendeeId", person_id as "personId", sender,
  calendar, sends`;

/** A mail that is put aside, held until the transaction ends; null where there is none. */
export async function lockAside(tx: Transaction, id: string): Promise<AsideHeld | null> {
  const { rows } = await tx.query<AsideHeld>(
    `select ${HELD} from incoming_mail where id = $1 and state = 'aside' for update`,
    [id],
  );
  return rows[0] ?? null;
}

/** All that is put aside of the same sender in the same place as a mail, itself among them, held, oldest first. */
export async function lockAsideOfSender(tx: Transaction, mail: AsideHeld): Promise<AsideHeld[]> {
  const { rows } = await tx.query<AsideHeld>(
    `select ${HELD} from incoming_mail
     where state = 'aside' and sends is null and sender = $1
       and ${mail.eventId === null ? 'person_id' : 'event_id'} = $2
     order by received_at, id limit ${MOST_COUNTED_TOGETHER} for update`,
    [mail.sender, mail.eventId ?? mail.personId],
  );
  return rows;
}

/** Notes what came of a mail that somebody looked at. @param why it is believed; null where it is left */
export async function closeAside(
  tx: Transaction,
  id: string,
  why: string | null,
  eventId: string | null,
): Promise<void> {
  await tx.query(
    `update incoming_mail set state = 'settled', why = coalesce($2, why), event_id = coalesce($3, event_id)
     where id = $1`,
    [id, why, eventId],
  );
}

/** Letters that were counted about a meeting, the latest first. */
export async function readCounted(db: Database, eventId: string): Promise<CountedMail[]> {
  const { rows } = await db.query<CountedMail>(
    `select received_at as "receivedAt", sender, why from incoming_mail
     where event_id = $1 and why <> '' order by received_at desc, id limit 20`,
    [eventId],
  );
  return rows;
}
