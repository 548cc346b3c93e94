import type { Reply } from '../../contract/events.ts';
import type { Transaction } from '../db/transaction.ts';
import type { EventRecord } from './model.ts';

interface KeptReply {
  recurrenceAt: string;
  email: string;
  reply: Reply;
  note: string;
  askedAt: number;
  repliedAt: number | null;
}

/** How an event stood before a change. */
export interface Revision {
  record: EventRecord;
  occurrenceReplies: KeptReply[];
  /** The event that the change split off. */
  splitOff: string | null;
}

/** Keeps how an event stands before the change that makes its next version. */
export async function keepRevision(
  tx: Transaction,
  before: EventRecord,
  now: number,
  splitOff: string | null = null,
): Promise<void> {
  const { rows } = await tx.query<KeptReply>(
    `select occurrence_reply.recurrence_at as "recurrenceAt", attendee.email,
            occurrence_reply.reply, occurrence_reply.note, asked_at as "askedAt",
            occurrence_reply.replied_at as "repliedAt"
     from occurrence_reply join attendee on attendee.id = occurrence_reply.attendee_id
     where occurrence_reply.event_id = $1`,
    [before.id],
  );
  await tx.query(
    `insert into event_revision (event_id, version, at, state, split_off)
     values ($1, $2, $3, $4, $5)`,
    [
      before.id,
      before.version + 1,
      new Date(now),
      JSON.stringify({ record: before, occurrenceReplies: rows }),
      splitOff,
    ],
  );
}

/** Takes the latest revision of an event off the pile; null when there is none. */
export async function takeRevision(tx: Transaction, eventId: string): Promise<Revision | null> {
  const { rows } = await tx.query<{ state: Omit<Revision, 'splitOff'>; splitOff: string | null }>(
    `delete from event_revision where event_id = $1 and version = (
       select max(version) from event_revision where event_id = $1)
     returning state, split_off as "splitOff"`,
    [eventId],
  );
  return rows[0] ? { ...rows[0].state, splitOff: rows[0].splitOff } : null;
}

export async function hasRevisions(tx: Transaction, eventId: string): Promise<boolean> {
  const { rows } = await tx.query('select 1 from event_revision where event_id = $1 limit 1', [
    eventId,
  ]);
  return rows.length > 0;
}

/** Gives everyone the reply that a revision says they had. */
export async function restoreReplies(tx: Transaction, revision: Revision): Promise<void> {
  const { record, occurrenceReplies } = revision;
  const instant = (at: number | null) => (at === null ? null : new Date(at).toISOString());
  await tx.query(
    `update attendee set reply = old.reply, note = old.note, invited_at = old.invited_at,
                         replied_at = old.replied_at
     from jsonb_to_recordset($2) as old (email text, reply text, note text, invited_at timestamptz,
                                         replied_at timestamptz)
     where attendee.event_id = $1 and lower(attendee.email) = lower(old.email)`,
    [
      record.id,
      JSON.stringify(
        record.attendees.map((one) => ({
          ...one,
          invited_at: instant(one.invitedAt),
          replied_at: instant(one.repliedAt),
        })),
      ),
    ],
  );
  await tx.query('delete from occurrence_reply where event_id = $1', [record.id]);
  await tx.query(
    `insert into occurrence_reply (event_id, recurrence_at, attendee_id, reply, note, asked_at, replied_at)
     select $1, old.recurrence_at, attendee.id, old.reply, old.note, old.asked_at, old.replied_at
     from jsonb_to_recordset($2) as old (recurrence_at timestamp, email text, reply text, note text,
                                         asked_at timestamptz, replied_at timestamptz)
     join attendee on attendee.event_id = $1 and lower(attendee.email) = lower(old.email)`,
    [
      record.id,
      JSON.stringify(
        occurrenceReplies.map((one) => ({
          ...one,
          recurrence_at: one.recurrenceAt,
          asked_at: instant(one.askedAt),
          replied_at: instant(one.repliedAt),
        })),
      ),
    ],
  );
}
