import type { Database } from '../db/transaction.ts';

/** Where somebody works, as a city; null where that is nowhere. */
export async function cityOf(db: Database, personId: number): Promise<string | null> {
  const { rows } = await db.query<{ city: string }>(
    `select site.city from person join site on site.id = person.site_id
     where person.subject_id = $1`,
    [personId],
  );
  return rows[0]?.city ?? null;
}
