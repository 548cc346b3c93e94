import type { AsideMail } from '../../contract/incoming.ts';
import type { Database, Transaction } from '../db/transaction.ts';

export interface IncomingMail {
  messageId: string;
  sender: string;
  subject: string;
  words: string;
  calendar: string | null;
  state: 'counted' | 'automatic' | 'bounced' | 'aside';
  reason: string;
  eventId: string | null;
  attendeeId: number | null;
  /** Whoever it came to at their own address, where it is put aside and of no meeting of here. */
  personId: number | null;
}

/** Whether a mail came before. */
export async function isKnown(db: Database, messageId: string): Promise<boolean> {
  const { rowCount } = await db.query('select 1 from incoming_mail where message_id = $1', [
    messageId,
  ]);
  return rowCount === 1;
}

/** Keeps a mail with what was made of it; one that comes twice, once. */
export async function keepMail(db: Database, mail: IncomingMail, now: number): Promise<void> {
  await db.query(
    `insert into incoming_mail (received_at, message_id, sender, subject, words, calendar, state,
                                reason, event_id, attendee_id, person_id)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) on conflict (message_id) do nothing`,
    [
      new Date(now),
      mail.messageId,
      mail.sender,
      mail.subject,
      mail.words,
      mail.calendar,
      mail.state,
      mail.reason,
      mail.eventId,
      mail.attendeeId,
      mail.personId,
    ],
  );
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
const asideWhere = (owner: string, canCount: string): string =>
  `select id, received_at as "receivedAt", sender, subject, words, reason,
          coalesce(${canCount}, false) as "canCount"
   from incoming_mail where state = 'aside' and ${owner}
   order by received_at desc, id limit 50`;

const ASIDE_OF_MEETING = asideWhere('event_id = $1', 'calendar is not null');
/** What comes to somebody's own address are invitations of meetings elsewhere. */
const ASIDE_OF_PERSON = asideWhere(
  'person_id = $1',
  `calendar ~* '(^|\\n)METHOD:(REQUEST|CANCEL|ADD)\\s'`,
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

interface HeldMail {
  eventId: string | null;
  personId: number | null;
  calendar: string | null;
}

/** A mail that is put aside, held until the transaction ends; null where there is none. */
export async function lockAside(tx: Transaction, id: string): Promise<HeldMail | null> {
  const { rows } = await tx.query<HeldMail>(
    `select event_id as "eventId", person_id as "personId", calendar from incoming_mail
     where id = $1 and state = 'aside' for update`,
    [id],
  );
  return rows[0] ?? null;
}

export async function closeAside(tx: Transaction, id: string): Promise<void> {
  await tx.query(`update incoming_mail set state = 'settled' where id = $1`, [id]);
}
