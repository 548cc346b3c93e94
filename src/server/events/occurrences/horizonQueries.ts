import type { Database } from '../../db/transaction.ts';

/** Series that are not laid out up to an instant, those that lack most first. */
export async function findShortSeries(
  db: Database,
  until: number,
  most: number,
): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `select id from event
     where rule is not null and status = 'confirmed' and coalesce(kept_until, '-infinity') < $1
     order by kept_until nulls first, id limit $2`,
    [new Date(until), most],
  );
  return rows.map((row) => row.id);
}
