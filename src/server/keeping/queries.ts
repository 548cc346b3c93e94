import { DAY } from '../../core/time/interval.ts';
import type { Database } from '../db/transaction.ts';
import { AGED, type Aged, type KeepDays } from './tables.ts';
import { MOST_STATEMENTS_A_RUN, ROWS_FORGOTTEN_AT_ONCE } from './limits.ts';

const statementOf = ({ name, since, only }: Aged): string =>
  `delete from ${name} where ctid = any(array(
     select ctid from ${name} where ${since} < $1${only ? ` and ${only}` : ''}
     order by ${since} limit ${ROWS_FORGOTTEN_AT_ONCE}))`;

/**
 * Forgets what is older than it is kept, a part at a time.
 * @returns how many rows of each table
 */
export async function forgetOld(
  db: Database,
  keep: KeepDays,
  now: number,
  signal?: AbortSignal,
): Promise<Partial<Record<Aged['name'], number>>> {
  const forgotten: Partial<Record<Aged['name'], number>> = {};
  for (const aged of AGED) {
    const before = new Date(now - keep[aged.name] * DAY);
    for (let run = 0; run < MOST_STATEMENTS_A_RUN && !signal?.aborted; run++) {
      const { rowCount } = await db.query(statementOf(aged), [before]);
      if (rowCount) forgotten[aged.name] = (forgotten[aged.name] ?? 0) + rowCount;
      if ((rowCount ?? 0) < ROWS_FORGOTTEN_AT_ONCE) break;
    }
  }
  return forgotten;
}
