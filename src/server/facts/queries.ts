import type { Fact, FactKind } from '../../core/meetings/facts.ts';
import { participantKey } from '../../core/meetings/people.ts';
import type { Revision } from '../../core/meetings/undo.ts';
import { sendBehind, type Part } from '../db/parts.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { noticesOf, CHANNEL } from '../live/index.ts';

/** A change that can be taken back. */
export interface Revised extends Omit<Revision, 'later'> {
  eventId: string;
}

interface Recorded {
  facts: readonly Fact[];
  actorId: number | null;
  /** In whose name it was done, where the actor acted for somebody. */
  actedFor: number | null;
  /** How each meeting that was changed is taken back to what it was. */
  revisions: readonly Revised[];
  /** What of others' windows shows something else now, such as `calendar:42`. */
  subjects: readonly string[];
  /** Epoch milliseconds. */
  now: number;
}

/**
 * Writes down what happened and how to take it back, and lets all servers' browsers know; the notice
 * goes out when the transaction commits.
 */
export function recordFacts(tx: Transaction, recorded: Recorded): void {
  const { facts, actorId, actedFor, revisions, subjects, now } = recorded;
  const rows = facts.map(({ kind, meetingId, occurrence, tell, message, people, details }) => ({
    kind,
    event_id: meetingId,
    occurrence,
    details: {
      tell,
      ...(message && { message }),
      ...(actedFor !== null && { for: actedFor }),
      // Whom alone it was told; a message to them is nobody else's.
      ...(people && { to: people.map(participantKey) }),
      ...details,
    },
  }));
  sendBehind(tx, [
    {
      text: `noted as (
       insert into fact (at, actor_id, kind, event_id, occurrence, details)
       select $1, $2, new.* from jsonb_to_recordset($3) as new (
         kind text, event_id uuid, occurrence timestamp, details jsonb)
     )`,
      values: [new Date(now), actorId, JSON.stringify(rows)],
    },
    ...(revisions.length > 0 ? [revisedPart(revisions, actorId, now)] : []),
    {
      text: `told as (select pg_notify('${CHANNEL}', notice) from unnest($1::text[]) as notice)`,
      values: [noticesOf(subjects)],
      gives: '(select count(*) from told)',
    },
  ]);
}

const revisedPart = (revisions: readonly Revised[], actorId: number | null, now: number): Part => ({
  text: `revised as (
       insert into event_revision (event_id, version, at, edits, split_off, by_id)
       select event_id, version, $1, edits, split_off, $2
       from jsonb_to_recordset($3) as made (event_id uuid, version int, edits jsonb, split_off jsonb)
     )`,
  values: [
    new Date(now),
    actorId,
    JSON.stringify(
      revisions.map(({ eventId, version, edits, splitOff }) => ({
        event_id: eventId,
        version,
        edits,
        split_off: splitOff,
      })),
    ),
  ],
});

/** How often something of a kind happened to a meeting since an instant. */
export async function countFacts(
  db: Database,
  eventId: string,
  kind: FactKind,
  since: number,
): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    'select count(*) from fact where event_id = $1 and kind = $2 and at > $3',
    [eventId, kind, new Date(since)],
  );
  return Number(rows[0]!.count);
}
