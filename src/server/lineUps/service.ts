import type { addressOwners, RememberedLineUp, lineUpRequest } from '../../contract/lineUps.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { Pool } from 'pg';
import type { z } from 'zod';
import type { Transaction } from '../db/transaction.ts';
import { findContacts } from '../people/index.ts';
import { deleteLineUp, existing, readLineUps, upsertLineUp } from './queries.ts';
import { MOST_LINE_UPS } from './limits.ts';

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

/** Whose some addresses are; each person once. */
export async function ownersOf(
  pool: Pool,
  emails: readonly string[],
): Promise<z.output<typeof addressOwners>> {
  const contacts = await findContacts(pool, { emails });
  return { people: contacts.map(({ id, name, email }) => ({ id, name, email })) };
}
