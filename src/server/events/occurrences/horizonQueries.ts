import type { Database, Transaction } from '../../db/transaction.ts';

/** Series that are not laid out up to an instant, those that lack most first. */
export async function findShortSeries(
  db: Database,
  until: number,
  most: number,
): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `select id from event
     where rule is not null and status = 'confirmed' and not is_laid_out_whole
       and coalesce(kept_until, '-infinity') < $1
     order by kept_until nulls first, id limit $2`,
    [new Date(until), most],
  );
  return rows.map((row) => row.id);
}

/** Notes that a series has no dates beyond those that are laid out; a change of it forgets that. */
export function markWhole(tx: Transaction, id: string): void {
  tx.send('update event set is_laid_out_whole = true where id = $1', [id]);
}

/** Notes up to when a series is laid out. Epoch milliseconds. */
export function markExpanded(tx: Transaction, id: string, until: number): void {
  tx.send('update event set kept_until = $2 where id = $1', [id, new Date(until)]);
}
