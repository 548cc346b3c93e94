import type { ReadAddresses, RememberedLineUp, lineUpRequest } from '../../contract/lineUps.ts';
import { addressKey } from '../../core/mailAddress.ts';
import type { ReadAddressList } from '../../core/planner/addresses.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { Pool } from 'pg';
import type { z } from 'zod';
import type { Transaction } from '../db/transaction.ts';
import { findContacts } from '../people/index.ts';
import { reader } from '../reading/index.ts';
import { deleteLineUp, existing, readLineUps, upsertLineUp } from './queries.ts';
import { MOST_LINE_UPS } from './limits.ts';

const readAddressList = reader<string, ReadAddressList>(
  new URL('./addresses.worker.ts', import.meta.url),
  'The list',
);

interface Remembered {
  lineUps: RememberedLineUp[];
}

/** @throws Refusal naming who or what of it is unknown, or that it is one too many */
export async function rememberLineUp(
  tx: Transaction,
  personId: number,
  request: z.output<typeof lineUpRequest>,
): Promise<Remembered> {
  const known = await existing(
    tx,
    request.members.flatMap((one) => ('id' in one ? [one.id] : [])),
  );
  const wrong = request.members.findIndex((one) => 'id' in one && !known.has(one.id));
  if (wrong >= 0)
    throw invalid([{ field: `members.${wrong}.id`, message: 'must be a person or a resource' }]);
  const before = await readLineUps(tx, personId);
  if (before.length >= MOST_LINE_UPS && !before.some((one) => one.name === request.name))
    throw invalid([{ field: 'name', message: `may be one of at most ${MOST_LINE_UPS}` }]);
  await upsertLineUp(tx, personId, request);
  return { lineUps: await readLineUps(tx, personId) };
}

/** @throws Refusal where there is no such line-up of theirs */
export async function forgetLineUp(
  tx: Transaction,
  personId: number,
  id: number,
): Promise<Remembered> {
  if (!(await deleteLineUp(tx, personId, id)))
    throw new Refusal('no-such-line-up', 'You remember no such line-up.');
  return { lineUps: await readLineUps(tx, personId) };
}

/** Who a pasted list of addresses names: people of here, others, and what is no address. */
export async function peopleInList(pool: Pool, text: string): Promise<ReadAddresses> {
  const { found, unreadable } = await readAddressList(text);
  const contacts = await findContacts(pool, { emails: found.map((one) => one.email) });
  const known = new Map(contacts.map((one) => [addressKey(one.email), one]));
  const named: ReadAddresses = { people: [], outside: [], unreadable };
  for (const one of found) {
    const person = known.get(addressKey(one.email));
    if (person) named.people.push({ id: person.id, name: person.name, email: person.email });
    else named.outside.push(one);
  }
  return named;
}
