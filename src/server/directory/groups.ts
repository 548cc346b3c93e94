import { addTeam, changeTeam, lockHome, removeTeam } from '../administration/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import { notFound, ScimProblem } from './errors.ts';
import { listOf, wantedBy, type ListQuery } from './lists.ts';
import { MOST_LISTED } from './limits.ts';
import { patched } from './patch.ts';
import { readDirectoryTeams, readVersion, writeExternalId } from './queries.ts';
import {
  DIRECTORY,
  refuseChanged,
  groupOf,
  readGroup,
  type GroupValues,
  type Resource,
} from './resources.ts';

export async function listGroups(db: Database, base: string, query: ListQuery): Promise<object> {
  const teams = await readDirectoryTeams(db, wantedBy(query.filter, 'displayName'), MOST_LISTED);
  return listOf(
    teams.map((one) => groupOf(one, base)),
    query,
  );
}

/** @throws ScimProblem where there is none */
export async function readOneGroup(db: Database, base: string, id: number): Promise<Resource> {
  const [team] = await readDirectoryTeams(db, { id }, 1);
  if (!team) throw notFound('Group');
  return groupOf(team, base);
}

export async function createGroup(
  tx: Transaction,
  platform: Platform,
  base: string,
  body: unknown,
): Promise<Resource> {
  const values = readGroup(body);
  await lockHome(tx);
  const { id } = await addTeam(tx, platform, DIRECTORY, { name: values.name, parentId: null });
  await write(tx, platform, id, values, []);
  return readOneGroup(tx, base, id);
}

export async function replaceGroup(
  tx: Transaction,
  platform: Platform,
  base: string,
  id: number,
  body: unknown,
  match: string | undefined,
): Promise<Resource> {
  await lockHome(tx);
  const before = await matching(tx, base, id, match);
  await write(tx, platform, id, readGroup(body), readGroup(before).members);
  return readOneGroup(tx, base, id);
}

export async function patchGroup(
  tx: Transaction,
  platform: Platform,
  base: string,
  id: number,
  body: unknown,
  match: string | undefined,
): Promise<Resource> {
  await lockHome(tx);
  const before = await matching(tx, base, id, match);
  const after = patched(before, body) as Resource;
  if (after.id !== before.id) throw new ScimProblem(400, 'id is not changed.', 'mutability');
  await write(tx, platform, id, readGroup(after), readGroup(before).members);
  return readOneGroup(tx, base, id);
}

export async function deleteGroup(
  tx: Transaction,
  platform: Platform,
  base: string,
  id: number,
  match: string | undefined,
): Promise<void> {
  await lockHome(tx);
  await matching(tx, base, id, match);
  await removeTeam(tx, platform, DIRECTORY, id, await readVersion(tx, 'team', id));
}

async function matching(
  tx: Transaction,
  base: string,
  id: number,
  match: string | undefined,
): Promise<Resource> {
  const before = await readOneGroup(tx, base, id);
  refuseChanged(before, match);
  return before;
}

async function write(
  tx: Transaction,
  platform: Platform,
  id: number,
  values: GroupValues,
  members: readonly number[],
): Promise<void> {
  const [was, is] = [new Set(members), new Set(values.members)];
  await changeTeam(tx, platform, DIRECTORY, id, {
    version: await readVersion(tx, 'team', id),
    name: values.name,
    into: values.members.filter((one) => !was.has(one)),
    outOf: members.filter((one) => !is.has(one)),
  });
  writeExternalId(tx, 'team', id, values.externalId);
}
