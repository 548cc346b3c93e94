import {
  placeFactInWords,
  placeFieldNames,
  type PlaceFactDetails,
} from '../../core/booking/placeFacts.ts';
import { editsOf, takeEditsBack, type Edit } from '../../core/edits.ts';
import { dateAt } from '../../core/time/wall.ts';
import { may, requireSteward, withinReach } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import { takeClosuresBack, type ClosureEdit } from '../closures/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { lockMeetings, undoTogether } from '../events/index.ts';
import {
  commitThings,
  type LoggedFact,
  type ThingChange,
  type ThingHistory,
  type ThingRevision,
  type ThingsTakenBack,
} from '../facts/index.ts';
import { updateOwners } from '../places/index.ts';
import type { Platform } from '../platform.ts';
import { placeOfValues, valuesOfPlace } from './placeValues.ts';
import {
  lockPlaces,
  lockSites,
  readComing,
  readLogNames,
  readPlaces,
  readPlacesOf,
  retirePlaces,
  returnPlaces,
  updatePlaces,
  type KeptPlace,
} from './queries.ts';
import {
  applyToBookings,
  readTouched,
  whyNot,
  type Touched,
  type ResourceChange,
} from './resourceChanges.ts';

/** How what was done to places is said, and taken back. */
export const placeHistory: ThingHistory = { thing: 'place', say, takeBack };

async function say(
  db: Database,
  actor: PersonActor,
  facts: readonly LoggedFact[],
): Promise<string[]> {
  requireSteward(actor);
  const details = facts.map((fact) => fact.details as unknown as PlaceFactDetails['place-changed']);
  const edits = details.flatMap((one) => one.edits ?? []);
  const valuesAt = (path: string) =>
    edits.flatMap((edit) => (edit.path === path ? [edit.from, edit.to] : [])).flat();
  const idsAt = (path: string) => valuesAt(path).filter((id): id is number => id !== null);
  const names = await readLogNames(db, {
    site: idsAt('siteId'),
    team: idsAt('rules/teams'),
    person: idsAt('ownerId'),
  });
  const { zone, clock } = actor.me;
  const words = {
    ...{ zone, clock },
    nameOf: (what: string, id: number) => names.get(`${what} ${id}`) ?? 'one that is gone',
  };
  return facts.map(({ kind }, k) =>
    placeFactInWords(kind as keyof PlaceFactDetails, details[k] as never, words),
  );
}

/** A place of which something is taken back: as it is, and as it is to be. */
interface Restored {
  before: KeptPlace;
  after: ReturnType<typeof placeOfValues>;
  edits: Edit[];
}

async function takeBack(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  revisions: readonly ThingRevision[],
): Promise<ThingsTakenBack> {
  requireSteward(actor);
  const now = platform.clock.now();
  const left: string[] = [];
  const ids = [...new Set(revisions.map((one) => one.thingId))];
  // In the order in which everybody holds them: meetings, then places.
  await lockMeetings(
    tx,
    [...new Set(revisions.flatMap(({ meetings }) => meetings.map((one) => one.id)))].sort(),
  );
  lockPlaces(tx, ids);
  const there = new Map((await readPlaces(tx, ids)).map((one) => [one.id, one]));
  const values = new Map([...there].map(([id, place]) => [id, valuesOfPlace(place)]));
  const closures: ClosureEdit[] = [];
  const touching = new Map<number, ThingRevision>();
  for (const revision of revisions) {
    const { thingId } = revision;
    const place = there.get(thingId);
    if (!place) continue;
    if (!may(actor, 'look-after', thingId)) {
      left.push(`${place.name}, which you do not look after`);
      continue;
    }
    const own = revision.edits.filter(({ path }) => !path.startsWith('closure/'));
    const taken = takeEditsBack(values.get(thingId)!, own);
    values.set(thingId, taken.values);
    left.push(
      ...placeFieldNames(taken.left).map((field) => `${field} of ${place.name}, changed since`),
    );
    if (taken.left.some(({ path }) => path === 'isRetired'))
      left.push(`${place.name}, ${place.isRetired ? 'retired' : 'brought back'} since`);
    if (own.length > 0 && taken.left.length === own.length) continue;
    if (own.length > 0) touching.set(revision.id, revision);
    for (const edit of revision.edits.filter((one) => !own.includes(one)))
      closures.push({
        ...{ revision: revision.id, moved: revision.meetings.length },
        ...{ placeId: thingId, name: place.name, edit },
      });
  }
  const restored = [...there.values()].flatMap((before): Restored[] => {
    const edits = editsOf(valuesOfPlace(before), values.get(before.id)!);
    return edits.length > 0
      ? [{ before, after: placeOfValues(values.get(before.id)!), edits }]
      : [];
  });
  const touched = await readTouched(tx, restored.map(changeOf), now);
  const standing = await refusedOnes(tx, actor, restored, touched, now);
  left.push(...standing.values());
  const changes = restored.filter(({ before }) => !standing.has(before.id));
  await write(tx, changes, touched, now);
  // What was done at once is taken back at once, or stays.
  const reopening = closures.filter(
    ({ revision, placeId }) => !(touching.has(revision) && standing.has(placeId)),
  );
  const reopened = await takeClosuresBack(tx, platform, actor, reopening, there);
  left.push(...reopened.left);
  const done = new Set([
    ...reopened.done,
    ...[...touching.values()].flatMap(({ id, thingId }) => (standing.has(thingId) ? [] : [id])),
  ]);
  await commitThings(tx, platform, actor, [...changes.map(factOf), ...reopened.changes]);
  const meetings = { undone: 0, partly: 0, left: 0 };
  for (const revision of revisions.filter(({ id }) => done.has(id))) {
    if (revision.meetings.length === 0) continue;
    const back = await undoTogether(tx, platform, actor, revision.meetings, { after: now });
    meetings.undone += back.undone;
    meetings.partly += back.partly;
    meetings.left += back.left;
  }
  return { done: [...done], left, meetings };
}

/** The places that cannot be as they were, each with what of it stays and why, by their ids. */
async function refusedOnes(
  tx: Transaction,
  actor: PersonActor,
  restored: readonly Restored[],
  touched: Touched,
  now: number,
): Promise<Map<number, string>> {
  const refused = new Map<number, string>();
  const going = restored.filter(({ before, after }) => after.isRetired && !before.isRetired);
  const coming = await readComing(
    tx,
    going.map(({ before }) => before.id),
    now,
  );
  for (const { placeId } of coming) {
    const { name } = going.find(({ before }) => before.id === placeId)!.before;
    refused.set(placeId, `${name}, which is booked by now`);
  }
  // Names that others have at their sites by now.
  const named = restored.filter(
    ({ before, after }) => !after.isRetired && (before.isRetired || keyOf(before) !== keyOf(after)),
  );
  if (named.length > 0) {
    const sites = [...new Set(named.map(({ after }) => after.siteId))];
    await lockSites(tx, sites);
    const others = await readPlacesOf(tx, sites);
    for (const { before, after } of named)
      if (others.some((one) => one.id !== before.id && keyOf(one) === keyOf(after)))
        refused.set(before.id, `${after.name}, whose name is another place’s by now`);
  }
  const reached = await withinReach(
    tx,
    actor,
    restored.map(({ before, after }) => ({ ...after, id: before.id })),
  );
  for (const [k, { before }] of restored.entries())
    if (!reached[k] || !may(actor, 'look-after', before.id))
      refused.set(before.id, `${before.name}, which you do not look after`);
  const changes = restored.map(changeOf);
  for (const change of changes) {
    const refusal = whyNot(change, touched, actor);
    if (refusal)
      refused.set(change.before.id, `${change.before.name}, where ${inSentence(refusal.message)}`);
  }
  return refused;
}

/** What stands in the way, as it goes on in a sentence. */
const inSentence = (message: string): string =>
  message.slice(0, 1).toLowerCase() + message.slice(1).replace(/\. Nothing was changed\.$/, '');

const keyOf = ({ siteId, name }: { siteId: number; name: string }) =>
  `${siteId} ${name.toLowerCase()}`;
const changeOf = ({ before, after }: Restored): ResourceChange => ({ before, after });

async function write(
  tx: Transaction,
  restored: readonly Restored[],
  touched: Touched,
  now: number,
): Promise<void> {
  if (restored.length === 0) return;
  const changes = restored.map(changeOf);
  applyToBookings(tx, changes, touched, now);
  updatePlaces(
    tx,
    restored.map(({ before, after: { ownerId: _owner, isRetired: _retired, ...place } }) => ({
      ...place,
      id: before.id,
    })),
  );
  const owned = restored.filter(({ before, after }) => before.ownerId !== after.ownerId);
  if (owned.length > 0)
    await updateOwners(
      tx,
      owned.map(({ before: { id, zone }, after: { ownerId } }) => ({
        ...{ id, ownerId },
        today: dateAt(now, zone),
      })),
    );
  const idsWhere = (isWanted: (one: Restored) => boolean) =>
    restored.filter(isWanted).map(({ before }) => before.id);
  const going = idsWhere(({ before, after }) => after.isRetired && !before.isRetired);
  const returning = idsWhere(({ before, after }) => !after.isRetired && before.isRetired);
  if (going.length > 0) retirePlaces(tx, going, now);
  if (returning.length > 0) returnPlaces(tx, returning);
}

/** What happened to a place of which something was taken back. */
function factOf({ before, after, edits }: Restored): ThingChange {
  const { id, name } = before;
  const about = { thing: 'place', thingId: id } as const;
  if (before.isRetired !== after.isRetired)
    return {
      fact: {
        ...about,
        kind: after.isRetired ? 'place-retired' : 'place-returned',
        details: { name },
      },
    };
  return { fact: { ...about, kind: 'place-changed', details: { name, edits } } };
}
