import { editsOf, takeEditsBack, type Edit } from '../../core/edits.ts';
import { addressKey } from '../../core/mailAddress.ts';
import {
  personFactInWords,
  personFieldNames,
  personOfValues,
  valuesOfPerson,
  type PersonFactDetails,
} from '../../core/people/personFacts.ts';
import { settled, type Charge } from '../../core/people/reach.ts';
import { requireAdministrator } from '../access/index.ts';
import { actorName, type PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import {
  commitThings,
  type LoggedFact,
  type ThingHistory,
  type ThingRevision,
  type ThingsTakenBack,
} from '../facts/index.ts';
import type { Platform } from '../platform.ts';
import { giveBack } from './leaving/giveBack.ts';
import { changeOf, writePairs, type PersonPair } from './people.ts';
import {
  lockHome,
  lockPeople,
  readByAddress,
  readNames,
  type KeptPerson,
} from './peopleQueries.ts';

/** How what was done to people is said, and taken back. */
export const personHistory: ThingHistory = { thing: 'person', say, takeBack };

async function say(
  db: Database,
  actor: PersonActor,
  facts: readonly LoggedFact[],
): Promise<string[]> {
  requireAdministrator(actor);
  const details = facts.map(
    (fact) => fact.details as unknown as PersonFactDetails['person-changed'],
  );
  const idsAt = (path: string) =>
    details
      .flatMap((one) => one.edits ?? [])
      .flatMap((edit) => (edit.path === path ? [edit.from, edit.to] : []))
      .flat()
      .filter((id): id is number => id !== null);
  const charges = details
    .flatMap((one) => one.edits ?? [])
    .filter(({ path }) => path === 'reach')
    .flatMap(({ from, to }) => [from, to] as (Charge[] | null)[])
    .flatMap((reach) => reach ?? []);
  const names = await readNames(db, {
    sites: [...idsAt('siteId'), ...charges.flatMap(({ siteId }) => siteId ?? [])],
    teams: [...idsAt('teams'), ...idsAt('coordinates')],
    places: charges.flatMap(({ placeId }) => placeId ?? []),
    people: idsAt('deputyId'),
  });
  const words = {
    nameOf: (what: string, id: number) => names.get(`${what} ${id}`) ?? 'one that is gone',
  };
  return facts.map(({ kind }, k) =>
    personFactInWords(kind as keyof PersonFactDetails, details[k] as never, words),
  );
}

async function takeBack(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  revisions: readonly ThingRevision[],
): Promise<ThingsTakenBack> {
  requireAdministrator(actor);
  const home = await lockHome(tx);
  const there = new Map(
    (await lockPeople(tx, [...new Set(revisions.map(({ thingId }) => thingId))])).map((one) => [
      one.id,
      one,
    ]),
  );
  const values = new Map([...there].map(([id, one]) => [id, valuesOfPerson(one)]));
  const left: string[] = [];
  const touching = new Map<number, number>();
  const leavings: ThingRevision[] = [];
  for (const revision of revisions) {
    const { id, thingId } = revision;
    const person = there.get(thingId);
    if (!person) continue;
    const edits = revision.edits.filter(({ path }) => !path.includes('/'));
    const taken = takeEditsBack(values.get(thingId)!, edits);
    values.set(thingId, taken.values);
    left.push(...leftInWords(person, taken.left));
    if (taken.left.length < edits.length) touching.set(id, thingId);
    // Who is not here again does not have again what was theirs.
    const isBack = !taken.left.some(({ path }) => path === 'account');
    if (isBack && (edits.length < revision.edits.length || revision.meetings.length > 0))
      leavings.push(revision);
  }
  let pairs = [...there.values()].flatMap((before): PersonPair[] => {
    const after = {
      ...before,
      ...personOfValues(values.get(before.id)!),
      role: values.get(before.id)!.get('role') as KeptPerson['role'],
      teams: values.get(before.id)!.get('teams') as number[],
    };
    return editsOf(valuesOfPerson(before), valuesOfPerson(after)).length > 0
      ? [{ before, after }]
      : [];
  });
  pairs = await withThingsThatAre(tx, pairs);
  // Their address may be somebody else's by now.
  const moved = pairs.filter(
    ({ before, after }) => addressKey(before.email) !== addressKey(after.email),
  );
  const owners = moved.length
    ? await readByAddress(
        tx,
        moved.map(({ after }) => after.email),
      )
    : [];
  const standing = new Set<number>();
  for (const { before, after } of moved) {
    const owner = owners.find((one) => addressKey(one.email) === addressKey(after.email));
    if (!owner || owner.id === before.id || moved.some((one) => one.before.id === owner.id))
      continue;
    standing.add(before.id);
    left.push(`${before.name}, whose former address is ${owner.name}’s by now`);
  }
  const self = (actor.by ?? actor.me).id;
  for (const { before, after } of pairs)
    if (before.id === self && (after.account === 'ended' || after.account === 'removed')) {
      standing.add(before.id);
      left.push('your own access');
    }
  const changed = pairs.filter(({ before }) => !standing.has(before.id));
  await writePairs(tx, platform, changed, { organization: home.name, by: actorName(actor) });
  await commitThings(
    tx,
    platform,
    actor,
    // What was taken back is not taken back once more: what it did can be done anew.
    changed.map((pair) => {
      const { fact } = changeOf(pair)!;
      return { fact };
    }),
  );
  const back = await giveBack(
    tx,
    platform,
    actor,
    leavings.filter(({ thingId }) => !standing.has(thingId)),
    there,
  );
  return {
    done: [...touching].flatMap(([id, thingId]) => (standing.has(thingId) ? [] : [id])),
    left: [...left, ...back.left],
    meetings: back.meetings,
  };
}

/** Without sites and teams that are gone since, which nobody can be put back to. */
async function withThingsThatAre(tx: Transaction, pairs: PersonPair[]): Promise<PersonPair[]> {
  const names = await readNames(tx, {
    sites: pairs.flatMap(({ after }) => after.siteId ?? []),
    teams: pairs.flatMap(({ after }) => [...after.teams, ...after.coordinates]),
    people: pairs.flatMap(({ after }) => after.deputyId ?? []),
  });
  const isThere = (what: string, id: number | null) => id === null || names.has(`${what} ${id}`);
  return pairs.map(({ before, after }) => {
    return {
      before,
      after: settled({
        ...after,
        siteId: isThere('site', after.siteId) ? after.siteId : null,
        teams: after.teams.filter((team) => isThere('team', team)),
        coordinates: after.coordinates.filter((team) => isThere('team', team)),
        deputyId: isThere('person', after.deputyId) ? after.deputyId : null,
      }),
    };
  });
}

/** What of somebody stays, as it was changed since. */
function leftInWords(person: KeptPerson, edits: readonly Edit[]): string[] {
  return [
    ...personFieldNames(edits).map((field) => `${field} of ${person.name}, changed since`),
    ...edits.flatMap(({ path, to }) => {
      if (path !== 'account') return [];
      if (to === 'invited' && person.account === 'active')
        return [`${person.name}, who has come meanwhile`];
      return [`${person.name}, whose access was changed since`];
    }),
  ];
}
