import type { Transaction } from '../db/transaction.ts';

/**
 * A table of rows that hang on an event and go along when a part of a series becomes an event of
 * its own. Each capability names its own; nobody knows them all.
 */
export interface Belonging {
  table: string;
  /** What makes a row, the event and generated numbers aside. */
  columns: string[];
  /** Of those, what makes two rows the same thing. */
  identity: string[];
}

/** Gives an event what hangs on another, where it does not have it already. */
export function copyBelongings(
  tx: Transaction,
  belongings: readonly Belonging[],
  fromId: string,
  toId: string,
): void {
  if (belongings.length === 0) return;
  const parts = belongings.map(({ table, columns, identity }, k) => {
    const list = columns.join(', ');
    const same = identity.map((column) => `there.${column} = here.${column}`).join(' and ');
    return `part${k} as (
      insert into ${table} (event_id, ${list})
      select $2, ${list} from ${table} here
      where event_id = $1 and not exists (
        select 1 from ${table} there where there.event_id = $2 and ${same})
      on conflict do nothing)`;
  });
  tx.send(`with ${parts.join(', ')} select 1`, [fromId, toId]);
}
