import type { Database, Transaction } from '../db/transaction.ts';
import { findContacts, type Contact } from './queries.ts';

/** What is being read of people ahead of when it is needed, within each transaction. */
const foreseen = new WeakMap<Database, { ids: ReadonlySet<number>; read: Promise<Contact[]> }>();

/**
 * Begins to read who some people are, without waiting for it: whoever is written to later in the same
 * transaction is known then, while others wait for what it holds by that time.
 */
export function foreseeContacts(tx: Transaction, ids: readonly number[]): void {
  if (ids.length === 0) return;
  const read = findContacts(tx, { ids });
  // Whoever needs it hears of its failure; else the transaction does.
  read.catch(() => undefined);
  foreseen.set(tx, { ids: new Set(ids), read });
}

/** People by their ids; those that are nobody's are missing. */
export async function contactsById(
  db: Database,
  ids: readonly number[],
): Promise<Map<number, Contact>> {
  const before = foreseen.get(db);
  const missing = [...new Set(ids)].filter((id) => !before?.ids.has(id));
  const [known, others] = await Promise.all([
    before?.read ?? [],
    missing.length > 0 ? findContacts(db, { ids: missing }) : [],
  ]);
  return new Map([...known, ...others].map((one) => [one.id, one]));
}
