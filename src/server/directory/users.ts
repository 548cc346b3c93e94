import { same } from '../../core/same.ts';
import {
  addPeople,
  changePeople,
  endPeople,
  lockHome,
  readHomeZone,
  returnPeople,
} from '../administration/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import { notFound, ScimProblem } from './errors.ts';
import { listOf, wantedBy, type ListQuery } from './lists.ts';
import { MOST_LISTED } from './limits.ts';
import { patched } from './patch.ts';
import {
  hasProviders,
  readDirectoryPeople,
  readUnlisted,
  readVersion,
  writeExternalId,
  writeUnlisted,
  writeUserName,
} from './queries.ts';
import {
  DIRECTORY,
  refuseChanged,
  readUser,
  userOf,
  type Resource,
  type UserValues,
} from './resources.ts';

export async function listUsers(db: Database, base: string, query: ListQuery): Promise<object> {
  const people = await readDirectoryPeople(db, wantedBy(query.filter, 'userName'), MOST_LISTED);
  return listOf(
    people.map((one) => userOf(one, base)),
    query,
  );
}

/** @throws ScimProblem where there is none */
export async function readOneUser(db: Database, base: string, id: number): Promise<Resource> {
  const [person] = await readDirectoryPeople(db, { id }, 1);
  if (!person) throw notFound('User');
  return userOf(person, base);
}

/** Makes an account; whoever the directory had deleted is the same person again. */
export async function createUser(
  tx: Transaction,
  platform: Platform,
  base: string,
  body: unknown,
): Promise<Resource> {
  const values = readUser(body);
  await lockHome(tx);
  const gone = await readUnlisted(tx, values.email);
  if (gone) {
    writeUnlisted(tx, gone.id, false);
    await write(tx, platform, gone.id, { ...values, isActive: false }, { isActive: false });
    if (values.isActive) await letBack(tx, platform, gone.id);
    return readOneUser(tx, base, gone.id);
  }
  const { ids } = await addPeople(tx, platform, DIRECTORY, {
    people: [
      {
        name: values.name,
        email: values.email,
        jobTitle: values.jobTitle,
        zone: values.zone ?? (await readHomeZone(tx)),
        ...{ siteId: null, role: 'staff', teams: [] },
      },
    ],
    // Whoever can sign in by the organization’s own program needs no letter to come.
    welcome: !(await hasProviders(tx)),
  });
  const id = ids[0]!;
  await writeNames(tx, id, values);
  if (!values.isActive) await end(tx, platform, id);
  return readOneUser(tx, base, id);
}

/** Puts somebody in the place of what they were, by all of it (PUT). */
export async function replaceUser(
  tx: Transaction,
  platform: Platform,
  base: string,
  id: number,
  body: unknown,
  match: string | undefined,
): Promise<Resource> {
  await lockHome(tx);
  const before = await matching(tx, base, id, match);
  await write(tx, platform, id, readUser(body), { isActive: before.active === true });
  return readOneUser(tx, base, id);
}

/** Changes what operations are about (PATCH). */
export async function patchUser(
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
  if (after.id !== before.id || !same(after.groups, before.groups))
    throw new ScimProblem(400, 'id and groups are not changed here.', 'mutability');
  await write(tx, platform, id, readUser(renamed(before, after)), {
    isActive: before.active === true,
  });
  return readOneUser(tx, base, id);
}

/** Where a part of the name is another and the whole is not, the whole follows. */
function renamed(before: Resource, after: Resource): Resource {
  if (!same(after.displayName, before.displayName) || same(after.name, before.name)) return after;
  const formatted = (one: Resource) => (one.name as { formatted?: string } | undefined)?.formatted;
  const isWhole = formatted(after) !== formatted(before);
  return {
    ...after,
    displayName: undefined,
    name: isWhole ? after.name : { ...(after.name as object), formatted: undefined },
  };
}

/** Ends somebody's account, and lists them no more (DELETE); who they were stays. */
export async function deleteUser(
  tx: Transaction,
  platform: Platform,
  base: string,
  id: number,
  match: string | undefined,
): Promise<void> {
  await lockHome(tx);
  const before = await matching(tx, base, id, match);
  if (before.active) await end(tx, platform, id);
  writeUnlisted(tx, id, true);
}

/** @throws ScimProblem 404 where there is none, 412 where it is another than was read */
async function matching(
  tx: Transaction,
  base: string,
  id: number,
  match: string | undefined,
): Promise<Resource> {
  const before = await readOneUser(tx, base, id);
  refuseChanged(before, match);
  return before;
}

const chosen = async (tx: Transaction, id: number) => ({
  people: [{ id, version: await readVersion(tx, 'person', id) }],
});

async function end(tx: Transaction, platform: Platform, id: number): Promise<void> {
  await endPeople(tx, platform, DIRECTORY, await chosen(tx, id));
}

async function letBack(tx: Transaction, platform: Platform, id: number): Promise<void> {
  await returnPeople(tx, platform, DIRECTORY, await chosen(tx, id));
}

/** What the directory calls them. @throws ScimProblem where it calls somebody else so */
async function writeNames(
  tx: Transaction,
  id: number,
  { userName, externalId }: UserValues,
): Promise<void> {
  writeExternalId(tx, 'person', id, externalId);
  if (!(await writeUserName(tx, id, userName)))
    throw new ScimProblem(409, 'userName must not be that of somebody else.', 'uniqueness');
}

async function write(
  tx: Transaction,
  platform: Platform,
  id: number,
  values: UserValues,
  before: { isActive: boolean },
): Promise<void> {
  const { people } = await chosen(tx, id);
  await changePeople(tx, platform, DIRECTORY, {
    people,
    change: {
      name: values.name,
      email: values.email,
      jobTitle: values.jobTitle,
      ...(values.zone !== null && { zone: values.zone }),
    },
  });
  await writeNames(tx, id, values);
  if (values.isActive && !before.isActive) await letBack(tx, platform, id);
  if (!values.isActive && before.isActive) await end(tx, platform, id);
}
