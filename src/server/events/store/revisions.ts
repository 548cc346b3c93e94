import type { Revision } from '../../../core/meetings/undo.ts';
import type { Database, Transaction } from '../../db/transaction.ts';

/**
 * Takes a revision of an event off the pile.
 * @param version the one that the change made; null for the latest
 * @returns null when there is none
 */
export async function takeRevision(
  tx: Transaction,
  eventId: string,
  version: number | null,
): Promise<Revision | null> {
  const { rows } = await tx.query<Revision>(
    `delete from event_revision taken where event_id = $1 and version = coalesce($2, (
       select max(version) from event_revision where event_id = $1))
     returning version, edits, split_off as "splitOff",
       coalesce((select jsonb_agg(edits order by version) from event_revision later
                 where later.event_id = $1 and later.version > taken.version), '[]') as later`,
    [eventId, version],
  );
  return rows[0] ?? null;
}

/** Whether an event was changed in a way that can be taken back. */
export async function hasRevisions(db: Database, eventId: string): Promise<boolean> {
  const { rows } = await db.query('select 1 from event_revision where event_id = $1 limit 1', [
    eventId,
  ]);
  return rows.length > 0;
}

/** Forgets changes that nobody takes back any more. */
export async function forgetRevisions(db: Database, before: number): Promise<void> {
  await db.query('delete from event_revision where at < $1', [new Date(before)]);
}
