import type { Keeping, KeptKind } from '../../contract/keeping.ts';
import type { Database } from '../db/transaction.ts';
import { readKeepingSetting } from './queries.ts';
import { type AgedTable, type KeepDays } from './tables.ts';

/** The tables whose rows each kind is. */
const TABLES_OF: Record<Exclude<KeptKind, 'past' | 'comments'>, readonly AgedTable[]> = {
  letters: ['mail', 'incoming_mail', 'mailroom_message'],
  news: ['notification'],
  log: ['fact'],
};

/** How long each kind is kept: as administrators set it, else as the server was started with. */
export async function readKeeping(db: Database, keepDays: KeepDays): Promise<Keeping> {
  const set = await readKeepingSetting(db);
  return {
    past: null,
    comments: null,
    letters: keepDays.mail,
    news: keepDays.notification,
    log: keepDays.fact,
    ...set,
  };
}

/** After how many days the rows of each table go, by what is set. */
export function keepDaysBy(keepDays: KeepDays, keeping: Keeping): KeepDays {
  const days: Record<AgedTable, number> = { ...keepDays };
  for (const [kind, tables] of Object.entries(TABLES_OF))
    for (const table of tables) days[table] = keeping[kind as keyof typeof TABLES_OF];
  return days;
}
