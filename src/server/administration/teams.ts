import type { ChangeTeamRequest, NewTeam } from '../../contract/administration.ts';
import { MOST_OF_TEAM } from '../../contract/limits.ts';
import { editsOf, takeEditsBack, type Values } from '../../core/edits.ts';
import {
  teamFactInWords,
  teamFieldNames,
  type TeamFactDetails,
} from '../../core/people/teamFacts.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { requireAdministrator } from '../access/index.ts';
import type { Actor, PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import {
  commitThings,
  type LoggedFact,
  type ThingChange,
  type ThingHistory,
  type ThingRevision,
  type ThingsTakenBack,
} from '../facts/index.ts';
import type { Platform } from '../platform.ts';
import { lockHome, lockPeople } from './peopleQueries.ts';
import {
  insertTeam,
  isTeamName,
  lockTeam,
  readKin,
  readTeamWords,
  updateTeam,
  type KeptTeam,
} from './teamQueries.ts';

/** Who is in a team each by itself, so that what others did to somebody else is left alone. */
const valuesOf = ({ name, leadId, parentId, isRemoved, members }: KeptTeam): Values =>
  new Map<string, unknown>([
    ['name', name],
    ['leadId', leadId],
    ['parentId', parentId],
    ['isRemoved', isRemoved],
    ...members.map((id): [string, unknown] => [`member/${id}`, true]),
  ]);

const teamOf = (before: KeptTeam, values: Values): KeptTeam => ({
  ...before,
  name: values.get('name') as string,
  leadId: values.get('leadId') as number | null,
  parentId: values.get('parentId') as number | null,
  isRemoved: values.get('isRemoved') as boolean,
  members: [...values].flatMap(([path, isIn]) =>
    path.startsWith('member/') && isIn === true ? [Number(path.slice('member/'.length))] : [],
  ),
});

const nameTaken = () =>
  invalid([{ field: 'name', message: 'must not be the name of another team' }]);

/** Adds a team. @throws Refusal where another has its name, or it would be a part of a part */
export async function addTeam(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  { name, parentId }: NewTeam,
): Promise<{ id: number; change: number }> {
  const home = await lockHome(tx);
  if (await isTeamName(tx, name, null)) throw nameTaken();
  if (parentId !== null) await refusePart(tx, parentId, null);
  const id = await insertTeam(tx, home.id, name, parentId);
  const [change] = await commitThings(tx, platform, actor, [
    {
      fact: { thing: 'team', thingId: id, kind: 'team-added', details: { name } },
      edits: [{ path: 'isRemoved', from: true, to: false }],
    },
  ]);
  return { id, change: change! };
}

/** @throws Refusal unless a team can be a part of another: teams are parts of teams one level deep */
async function refusePart(tx: Transaction, parentId: number, own: number | null): Promise<void> {
  const parent = await readKin(tx, parentId);
  const message = !parent.isThere
    ? 'must be the number of a team'
    : parentId === own
      ? 'must be another team'
      : parent.isPart
        ? 'must be a team that is itself a part of none'
        : own !== null && (await readKin(tx, own)).hasParts
          ? 'must be none, as other teams are parts of this one'
          : null;
  if (message) throw invalid([{ field: 'parentId', message }]);
}

/** Changes a team. @throws Refusal when it was changed meanwhile, or cannot be so */
export async function changeTeam(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  id: number,
  { version, into = [], outOf = [], ...change }: ChangeTeamRequest,
): Promise<{ version: number; change: number | null }> {
  await lockHome(tx);
  const before = await lockPresent(tx, id, version);
  const given = Object.fromEntries(
    Object.entries(change).filter(([, value]) => value !== undefined),
  );
  const members = [...new Set([...before.members, ...into])].filter((one) => !outOf.includes(one));
  const after: KeptTeam = { ...before, ...given, members };
  // Whoever leads it and is taken out leads it no more.
  if (change.leadId === undefined && after.leadId !== null && outOf.includes(after.leadId))
    after.leadId = null;
  if (members.length > MOST_OF_TEAM)
    throw invalid([{ field: 'into', message: `must leave at most ${MOST_OF_TEAM} people in it` }]);
  const people = await lockPeople(tx, into);
  const isHere = (one: number) =>
    people.some((person) => person.id === one && person.account !== 'removed');
  if (!into.every(isHere)) throw invalid([{ field: 'into', message: 'must be people here' }]);
  if (after.leadId !== null && !members.includes(after.leadId))
    throw invalid([{ field: 'leadId', message: 'must be somebody who is in it' }]);
  if (await isTeamName(tx, after.name, id)) throw nameTaken();
  if (after.parentId !== null && after.parentId !== before.parentId)
    await refusePart(tx, after.parentId, id);
  return write(tx, platform, actor, before, after);
}

/** Removes a team; its people stay. */
export async function removeTeam(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  id: number,
  version: number,
): Promise<{ version: number; change: number | null }> {
  await lockHome(tx);
  const before = await lockPresent(tx, id, version);
  if ((await readKin(tx, id)).hasParts)
    throw new Refusal('has-parts', 'Other teams are parts of it. Take them out of it first.');
  return write(tx, platform, actor, before, {
    ...before,
    isRemoved: true,
    leadId: null,
    members: [],
  });
}

async function lockPresent(tx: Transaction, id: number, version: number): Promise<KeptTeam> {
  const team = await lockTeam(tx, id);
  if (!team || team.isRemoved)
    throw new Refusal('no-such-team', 'There is no such team.', {
      fields: [{ field: 'id', message: 'must be the number of a team' }],
    });
  if (team.version !== version)
    throw new Refusal('stale', 'This team was changed meanwhile; look at it again.', {
      fields: [{ field: 'version', message: `must be ${team.version}, the present version` }],
    });
  return team;
}

const changeOf = (before: KeptTeam, after: KeptTeam): ThingChange | null => {
  const edits = editsOf(valuesOf(before), valuesOf(after));
  if (edits.length === 0) return null;
  const about = { thing: 'team', thingId: before.id } as const;
  const { name } = before;
  return after.isRemoved && !before.isRemoved
    ? { fact: { ...about, kind: 'team-removed', details: { name } }, edits }
    : { fact: { ...about, kind: 'team-changed', details: { name, edits } }, edits };
};

async function write(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  before: KeptTeam,
  after: KeptTeam,
): Promise<{ version: number; change: number | null }> {
  const done = changeOf(before, after);
  if (!done) return { version: before.version, change: null };
  updateTeam(tx, after, platform.clock.now());
  const [change = null] = await commitThings(tx, platform, actor, [done]);
  return { version: before.version + 1, change };
}

/** How what was done to teams is said, and taken back. */
export const teamHistory: ThingHistory = { thing: 'team', say, takeBack };

async function say(
  db: Database,
  actor: PersonActor,
  facts: readonly LoggedFact[],
): Promise<string[]> {
  requireAdministrator(actor);
  const details = facts.map((fact) => fact.details as unknown as TeamFactDetails['team-changed']);
  const edits = details.flatMap((one) => one.edits ?? []);
  const idsAt = (path: string) =>
    edits
      .flatMap((edit) => (edit.path === path ? [edit.from, edit.to] : []))
      .filter((id): id is number => typeof id === 'number');
  const members = edits.flatMap(({ path }) =>
    path.startsWith('member/') ? [Number(path.slice('member/'.length))] : [],
  );
  const names = await readTeamWords(db, [...idsAt('leadId'), ...members], idsAt('parentId'));
  const nameOf = (what: string, id: number) => names.get(`${what} ${id}`) ?? 'somebody who is gone';
  return facts.map(({ kind }, k) =>
    teamFactInWords(kind as keyof TeamFactDetails, details[k]!, { nameOf }),
  );
}

async function takeBack(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  revisions: readonly ThingRevision[],
): Promise<ThingsTakenBack> {
  requireAdministrator(actor);
  await lockHome(tx);
  const [left, done]: [string[], number[]] = [[], []];
  // Teams are few, and seldom more than one is changed at once.
  for (const { id, thingId, edits } of revisions) {
    const before = await lockTeam(tx, thingId);
    if (!before) continue;
    const taken = takeEditsBack(valuesOf(before), edits);
    const after = teamOf(before, taken.values);
    left.push(
      ...teamFieldNames(taken.left).map((field) => `${field} of ${before.name}, changed since`),
    );
    if (taken.left.length === edits.length) continue;
    const why = await whyNot(tx, before, after);
    if (why) {
      left.push(why);
      continue;
    }
    if (after.leadId !== null && !after.members.includes(after.leadId)) after.leadId = null;
    updateTeam(tx, after, platform.clock.now());
    const change = changeOf(before, after);
    if (change) await commitThings(tx, platform, actor, [{ fact: change.fact }]);
    done.push(id);
  }
  return { done, left, meetings: { undone: 0, partly: 0, left: 0 } };
}

/** Why a team cannot be as it was, in words; null where it can. */
async function whyNot(tx: Transaction, before: KeptTeam, after: KeptTeam): Promise<string | null> {
  const { name } = before;
  if (after.isRemoved && !before.isRemoved && before.members.length > 0)
    return `${name}, which people are in by now`;
  if (after.isRemoved && (await readKin(tx, before.id)).hasParts)
    return `${name}, which other teams are parts of by now`;
  const isNamedAnew = after.name !== before.name || (before.isRemoved && !after.isRemoved);
  if (isNamedAnew && (await isTeamName(tx, after.name, before.id)))
    return `${name}, whose former name is another team’s by now`;
  if (after.parentId !== null && after.parentId !== before.parentId) {
    const parent = await readKin(tx, after.parentId);
    if (!parent.isThere || parent.isPart) return `${name}, which can be no part of its former team`;
  }
  return null;
}
