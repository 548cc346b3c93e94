import type { Database, Transaction } from '../db/transaction.ts';

/** Notes up to when a series' occurrences are kept; null for a single event. */
export async function keepUntil(
  tx: Transaction,
  eventId: string,
  until: number | null,
): Promise<void> {
  await tx.query('update event set kept_until = $2 where id = $1', [
    eventId,
    until === null ? null : new Date(until),
  ]);
}

/** Series whose occurrences are not yet kept up to a horizon. */
export async function findShortSeries(db: Database, until: number): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `select id from event
     where rule is not null and status = 'confirmed' and coalesce(kept_until, '-infinity') < $1
     order by id`,
    [new Date(until)],
  );
  return rows.map((row) => row.id);
}

/** Forgets how events stood before changes that nobody undoes any more, and files that nothing has. */
export async function forgetOld(tx: Transaction, before: number): Promise<void> {
  await tx.query('delete from event_revision where at < $1', [new Date(before)]);
  await tx.query(
    `delete from stored_file where not exists (
       select 1 from attachment where attachment.file_id = stored_file.id)`,
  );
}
