import type { Role } from '../../contract/administration.ts';
import type { Transaction } from '../db/transaction.ts';
import { commitThings } from '../facts/index.ts';
import { announce, DIRECTORY, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { insertPeople, letSignIn, lockHome, readHomeZone } from './peopleQueries.ts';

/**
 * Adds somebody whom another program vouches for: they sign in by it, and need no letter.
 * @returns their id
 */
export async function letIn(
  tx: Transaction,
  platform: Platform,
  { name, email, role, zone }: { name: string; email: string; role: Role; zone: string | null },
): Promise<number> {
  const home = await lockHome(tx);
  const person = {
    ...{ name, email, role, jobTitle: '', siteId: null, teams: [] },
    zone: zone ?? (await readHomeZone(tx)),
  };
  const [id] = await insertPeople(tx, home.id, [person]);
  letSignIn(tx, id!);
  await commitThings(tx, platform, { kind: 'system' }, [
    { fact: { thing: 'person', thingId: id!, kind: 'person-added', details: { name } } },
  ]);
  return id!;
}

/** Lets somebody who was invited sign in, as another way than a password vouches for them. */
export async function letCome(tx: Transaction, id: number): Promise<void> {
  await lockHome(tx);
  letSignIn(tx, id);
  announce(tx, [DIRECTORY, subjectOf('person', id)]);
}
