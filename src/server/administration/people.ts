import type {
  AddPeopleRequest,
  ChangePeopleRequest,
  ChosenPeople,
  NewPerson,
  PeopleChanged,
  StaffList,
  StaffQuery,
} from '../../contract/administration.ts';
import { MOST_TEAMS_OF_PERSON } from '../../contract/limits.ts';
import { editsOf } from '../../core/edits.ts';
import { listClauses } from '../../core/listClauses.ts';
import { addressKey } from '../../core/mailAddress.ts';
import { settled, valuesOfReach } from '../../core/people/reach.ts';
import { valuesOfPerson } from '../../core/people/personFacts.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { shutOut, tellFormerAddresses, welcome, welcomeByHand } from '../accounts/index.ts';
import type { Actor, PersonActor } from '../actions/index.ts';
import { actorName, isActor } from '../actions/index.ts';
import { transaction, type Database, type Transaction } from '../db/transaction.ts';
import { keepOwnDays } from '../events/index.ts';
import { commitThings, type ThingChange } from '../facts/index.ts';
import { readLetterStates } from '../mail/index.ts';
import type { Platform } from '../platform.ts';
import { refuseNotThere, refuseOtherReach } from './chosenChange.ts';
import { tellCoordinated } from './coordination.ts';
import { MOST_NAMED_WRONG } from './limits.ts';
import {
  countStandings,
  insertPeople,
  isAdministered,
  lockHome,
  lockPeople,
  readByAddress,
  readNames,
  readStaff,
  updatePeople,
  writeReach,
  writeTeams,
  type KeptPerson,
} from './peopleQueries.ts';

/** A part of the people there are, with what became of their letters of welcome. */
export async function listStaff(db: Database, query: StaffQuery): Promise<StaffList> {
  const { people, total } = await readStaff(db, query);
  const letters = await readLetterStates(
    db,
    'welcome',
    people.map(({ id }) => id),
  );
  return {
    people: people.map((one) => {
      const letter = letters.get(one.id);
      return { ...one, letter: letter?.state ?? null, welcomedAt: letter?.at ?? null };
    }),
    total,
    counts: query.after ? null : await countStandings(db),
  };
}

/** That somebody is new: taken back, they are as if they had never been added. */
const personAdded = (id: number, name: string): ThingChange => ({
  fact: { thing: 'person', thingId: id, kind: 'person-added', details: { name } },
  edits: [{ path: 'account', from: 'removed', to: 'invited' }],
});

/**
 * Adds people, all or none; whoever was added and taken back before is the same person again.
 * @throws Refusal naming who cannot be added, and why
 */
export async function addPeople(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  { people, welcome: writes }: AddPeopleRequest,
): Promise<PeopleChanged> {
  const home = await lockHome(tx);
  const here = await readByAddress(
    tx,
    people.map(({ email }) => email),
  );
  await refuseUnknown(tx, people, here);
  const former = new Map(here.map((one) => [addressKey(one.email), one]));
  const again = people.flatMap((one) => {
    const before = former.get(addressKey(one.email));
    return before ? [{ ...one, id: before.id, account: 'invited' as const }] : [];
  });
  const fresh = people.filter(({ email }) => !former.has(addressKey(email)));
  const ids = await insertPeople(tx, home.id, fresh);
  updatePeople(
    tx,
    again.map((one) => ({ ...one, deputyId: null })),
  );
  const freshIds = new Map(fresh.map(({ email }, k) => [addressKey(email), ids[k]!]));
  const idOf = ({ email }: NewPerson) =>
    freshIds.get(addressKey(email)) ?? former.get(addressKey(email))!.id;
  const added = people.map((one) => ({ ...one, id: idOf(one) }));
  writeTeams(tx, added);
  // Whoever comes again begins with nothing.
  writeReach(
    tx,
    again.map(({ id }) => ({ id, reach: [], coordinates: [] })),
  );
  if (writes) await welcome(tx, platform, added, { organization: home.name, by: actorName(actor) });
  const changes = await commitThings(
    tx,
    platform,
    actor,
    added.map(({ id, name }) => personAdded(id, name)),
  );
  return { ids: added.map(({ id }) => id), changes: changes.flatMap((one) => one ?? []) };
}

/** @throws Refusal where an address is somebody's here, or stands twice, or a site or team is none */
async function refuseUnknown(
  tx: Transaction,
  people: readonly NewPerson[],
  here: readonly (KeptPerson & { isHome: boolean })[],
): Promise<void> {
  const taken = new Set(
    here
      .filter((one) => one.account !== 'removed' || !one.isHome)
      .map(({ email }) => addressKey(email)),
  );
  const names = await readNames(tx, {
    sites: people.flatMap(({ siteId }) => siteId ?? []),
    teams: people.flatMap(({ teams }) => teams),
  });
  const seen = new Set<string>();
  const wrong = people.flatMap((one, k) => {
    const key = addressKey(one.email);
    const at = `people.${k}`;
    const fields = [
      ...(taken.has(key)
        ? [{ field: `${at}.email`, message: 'must not be the address of somebody here' }]
        : []),
      ...(seen.has(key) ? [{ field: `${at}.email`, message: 'must stand once' }] : []),
      ...(one.siteId !== null && !names.has(`site ${one.siteId}`)
        ? [{ field: `${at}.siteId`, message: 'must be the number of a site' }]
        : []),
      ...(one.teams.some((team) => !names.has(`team ${team}`))
        ? [{ field: `${at}.teams`, message: 'must be numbers of teams' }]
        : []),
    ];
    seen.add(key);
    return fields;
  });
  if (wrong.length > 0) throw invalid(wrong.slice(0, MOST_NAMED_WRONG));
}

/**
 * Those who are chosen, held until the transaction ends, as they were read.
 * @throws Refusal where somebody is nobody here, or was changed meanwhile
 */
export async function lockChosen(
  tx: Transaction,
  chosen: ChosenPeople['people'],
  isThere: (person: KeptPerson) => boolean,
): Promise<KeptPerson[]> {
  const people = (
    await lockPeople(
      tx,
      chosen.map(({ id }) => id),
    )
  ).filter(isThere);
  const found = new Map(people.map((one) => [one.id, one]));
  const missing = chosen.flatMap(({ id }, k) =>
    found.has(id) ? [] : [{ field: `people.${k}.id`, message: 'must be somebody here' }],
  );
  if (missing.length > 0)
    throw new Refusal('no-such-person', 'There is no such person.', {
      fields: missing.slice(0, MOST_NAMED_WRONG),
    });
  const stale = chosen.filter(({ id, version }) => found.get(id)!.version !== version);
  if (stale.length > 0) {
    const names = stale.map(({ id }) => found.get(id)!.name);
    throw new Refusal(
      'stale',
      `Changed meanwhile: ${listClauses(names)}. Nothing was changed; look at them again.`,
      { fields: [{ field: 'people', message: 'must have the versions they have now' }] },
    );
  }
  return people;
}

const isHere = ({ account }: KeptPerson) => account !== 'removed';

/**
 * Changes people, all or none.
 * @throws Refusal where somebody was changed meanwhile, an address is somebody else's, or nobody would be left
 * who administers the organization
 */
export async function changePeople(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  { people: chosen, change }: ChangePeopleRequest,
): Promise<PeopleChanged> {
  const home = await lockHome(tx);
  const { into = [], outOf = [], ...values } = change;
  const given = Object.fromEntries(
    Object.entries(values).filter(([, value]) => value !== undefined),
  );
  if ((change.email !== undefined || change.name !== undefined) && chosen.length > 1)
    throw invalid([
      { field: 'people', message: 'must be one person, whose name or address it is' },
    ]);
  const before = await lockChosen(tx, chosen, isHere);
  await refuseNotThere(tx, change);
  const after = before.map((one): KeptPerson => {
    const teams = [...new Set([...one.teams, ...into])].filter((team) => !outOf.includes(team));
    return settled({ ...one, ...given, teams });
  });
  refuseOtherReach(change, after);
  if (after.some(({ teams }) => teams.length > MOST_TEAMS_OF_PERSON))
    throw invalid([
      {
        field: 'change.into',
        message: `must leave nobody in more than ${MOST_TEAMS_OF_PERSON} teams`,
      },
    ]);
  if (change.email !== undefined) {
    const [owner] = await readByAddress(tx, [change.email]);
    if (owner && owner.id !== before[0]!.id)
      throw invalid([
        {
          field: 'change.email',
          message: `must not be the address of somebody else, ${owner.name}`,
        },
      ]);
  }
  const pairs = before.map((one, k) => ({ before: one, after: after[k]! }));
  return write(tx, platform, actor, pairs, home.name);
}

/** Ends the access of people: they are signed out this moment, and sign in no more. */
export async function endPeople(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  { people: chosen }: ChosenPeople,
): Promise<PeopleChanged> {
  const home = await lockHome(tx);
  if (chosen.some(({ id }) => isActor(actor, id)))
    throw invalid([
      { field: 'people', message: 'must not be yourself: another administrator ends your access' },
    ]);
  const before = await lockChosen(
    tx,
    chosen,
    ({ account }) => account !== 'removed' && account !== 'ended',
  );
  const pairs = before.map((one) => ({
    before: one,
    after: { ...one, account: 'ended' as const },
  }));
  return write(tx, platform, actor, pairs, home.name);
}

/** Lets people in again whose access ended: by their password, or by a letter where they have none. */
export async function returnPeople(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  { people: chosen }: ChosenPeople,
): Promise<PeopleChanged> {
  const home = await lockHome(tx);
  const before = await lockChosen(tx, chosen, ({ account }) => account === 'ended');
  const pairs = before.map((one) => ({
    before: one,
    after: { ...one, account: one.hasPassword ? ('active' as const) : ('invited' as const) },
  }));
  return write(tx, platform, actor, pairs, home.name);
}

export interface PersonPair {
  before: KeptPerson;
  after: KeptPerson;
}

/** What happened to somebody, as it is kept; null where nothing did. */
export function changeOf({ before, after }: PersonPair): ThingChange | null {
  const edits = editsOf(valuesOfPerson(before), valuesOfPerson(after));
  if (edits.length === 0) return null;
  const about = { thing: 'person', thingId: before.id } as const;
  const { name } = before;
  if (before.account !== after.account) {
    const kind =
      after.account === 'ended'
        ? 'person-ended'
        : after.account === 'removed'
          ? 'person-removed'
          : 'person-returned';
    return { fact: { ...about, kind, details: { name } }, edits };
  }
  return { fact: { ...about, kind: 'person-changed', details: { name, edits } }, edits };
}

/**
 * Writes people as they are from now on, with all that follows: who is out is signed out, whoever waits for their
 * letter at another address gets it there, whole days go along to another zone.
 * @throws Refusal where nobody would be left who administers the organization
 */
export async function writePairs(
  tx: Transaction,
  platform: Platform,
  changed: readonly PersonPair[],
  facts: { organization: string; by: string },
): Promise<void> {
  updatePeople(
    tx,
    changed.map(({ after: { version: _version, hasPassword: _has, ...one } }) => one),
  );
  writeTeams(
    tx,
    changed.flatMap(({ before, after }) =>
      String(before.teams) === String(after.teams) ? [] : [after],
    ),
  );
  const reaching = changed.filter(({ before, after }) =>
    editsOf(new Map(valuesOfReach(before)), new Map(valuesOfReach(after))).some(
      ({ path }) => path !== 'deputyId',
    ),
  );
  writeReach(
    tx,
    reaching.map(({ after }) => after),
  );
  await tellCoordinated(tx, platform, reaching, facts.by);
  const isOut = ({ after }: PersonPair) => after.account === 'ended' || after.account === 'removed';
  const idsOf = (pairs: readonly PersonPair[]) => pairs.map(({ before }) => before.id);
  await shutOut(tx, idsOf(changed.filter(isOut)));
  tellFormerAddresses(
    tx,
    platform,
    changed.flatMap(({ before, after }) =>
      after.account === 'active' && addressKey(before.email) !== addressKey(after.email)
        ? [{ id: after.id, name: after.name, former: before.email, address: after.email }]
        : [],
    ),
    facts,
  );
  const awaited = changed.filter(
    ({ before, after }) =>
      after.account === 'invited' &&
      (before.account !== 'invited' || addressKey(before.email) !== addressKey(after.email)),
  );
  await welcome(
    tx,
    platform,
    awaited.map(({ after }) => after),
    facts,
  );
  keepOwnDays(tx, idsOf(changed.filter(({ before, after }) => before.zone !== after.zone)));
  const lost = changed.some(
    ({ before, after }) =>
      before.role === 'administrator' &&
      (after.role !== 'administrator' || isOut({ before, after })),
  );
  if (lost && !(await isAdministered(tx)))
    throw new Refusal(
      'last-administrator',
      'Somebody has to be administrator who can sign in. Make somebody else one first.',
    );
}

async function write(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  pairs: readonly PersonPair[],
  organization: string,
): Promise<PeopleChanged> {
  const changed = pairs.filter((pair) => changeOf(pair) !== null);
  await writePairs(tx, platform, changed, { organization, by: actorName(actor) });
  const changes = await commitThings(
    tx,
    platform,
    actor,
    changed.map((pair) => changeOf(pair)!),
  );
  return {
    ids: pairs.map(({ before }) => before.id),
    changes: changes.flatMap((one) => one ?? []),
  };
}

/** Writes letters of welcome once more to those who have not come. @returns how many */
export async function welcomeAgain(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  { people: chosen }: ChosenPeople,
): Promise<number> {
  const home = await lockHome(tx);
  const people = await lockChosen(tx, chosen, ({ account }) => account === 'invited');
  await welcome(tx, platform, people, { organization: home.name, by: actorName(actor) });
  await commitThings(
    tx,
    platform,
    actor,
    people.map(({ id, name }) => ({
      fact: { thing: 'person', thingId: id, kind: 'person-welcomed', details: { name } },
    })),
  );
  return people.length;
}

/**
 * A link of welcome to hand over by oneself, to somebody who has not come: of others it would be a way into their
 * calendar.
 */
export async function linkByHand(
  platform: Platform,
  actor: PersonActor,
  id: number,
): Promise<string> {
  return transaction(platform.pool, async (tx) => {
    await lockHome(tx);
    const [person] = await lockPeople(tx, [id]);
    if (person?.account !== 'invited')
      throw new Refusal('no-such-person', 'A link of welcome is for somebody who has not come.', {
        fields: [{ field: 'id', message: 'must be somebody who never signed in' }],
      });
    const link = welcomeByHand(tx, platform, id);
    await commitThings(tx, platform, actor, [
      {
        fact: {
          ...{ thing: 'person', thingId: id, kind: 'person-link-made' },
          details: { name: person.name },
        },
      },
    ]);
    return link;
  });
}
