import { allRules } from '../../core/booking/rules.ts';
import {
  type NewPlace,
  type PlaceChange,
  type PlacePreview,
  type RetireRequest,
} from '../../contract/catalogue.ts';
import { MOST_AGAINST } from '../../contract/limits.ts';
import { editsOf, type Edit } from '../../core/edits.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import { requireKeeper, requireSteward, requireWithinReach } from '../access/index.ts';
import { closeFor, closureEdit, previewClosure } from '../closures/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { commitThings, type ThingChange } from '../facts/index.ts';
import type { Platform } from '../platform.ts';
import { deleteClosures, readClosures, readTeamNames } from '../reservations/index.ts';
import {
  insertPlaces,
  lockPlace,
  lockSites,
  readComing,
  readPlace,
  readPlacesOf,
  retirePlaces,
  returnPlaces,
  updatePlaces,
  type KeptPlace,
} from './queries.ts';
import { valuesOfPlace } from './placeValues.ts';
import {
  newlyAgainst,
  readTouched,
  readWords,
  applyToBookings,
  whyNot,
} from './resourceChanges.ts';

/** What is retired is out of use until then: as long as instants are known. */
const FOREVER = Date.UTC(2199, 0, 1);

const noSuchPlace = () =>
  new Refusal('no-such-place', 'There is no such place.', {
    fields: [{ field: 'id', message: 'must be the id of a place that is not retired' }],
  });

/** Adds a place. @throws Refusal naming what of it cannot be */
export async function addPlace(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  place: NewPlace,
): Promise<{ id: number; change: number }> {
  requireSteward(actor);
  await requireWithinReach(tx, actor, { ...place, id: null });
  await refuseUnknown(tx, place);
  const [id] = await insertPlaces(tx, [place]);
  const [change] = await commitThings(tx, platform, actor, [placeAdded(id!, place.name)]);
  return { id: id!, change: change! };
}

/** That a place is new: taken back, it is retired. */
export const placeAdded = (id: number, name: string): ThingChange => ({
  fact: { thing: 'place', thingId: id, kind: 'place-added', details: { name } },
  edits: [{ path: 'isRetired', from: true, to: false }],
});

/** That a place is retired: taken back, it is there again. */
export const placeRetired = (id: number, name: string): ThingChange => ({
  fact: { thing: 'place', thingId: id, kind: 'place-retired', details: { name } },
  edits: [{ path: 'isRetired', from: false, to: true }],
});

/** That a place which was retired is there again. */
export const placeReturned = (id: number, name: string, edits: readonly Edit[]): ThingChange => ({
  fact: { thing: 'place', thingId: id, kind: 'place-returned', details: { name } },
  edits,
});

/** That a place is another than before; null where it is the same. */
export function placeChanged(
  before: KeptPlace,
  after: NewPlace,
  ownerId: number | null,
): ThingChange | null {
  const { isRetired } = before;
  const edits = editsOf(valuesOfPlace(before), valuesOfPlace({ ...after, ownerId, isRetired }));
  if (edits.length === 0) return null;
  const details = { name: before.name, edits };
  return { fact: { thing: 'place', thingId: before.id, kind: 'place-changed', details }, edits };
}

/**
 * Changes a place. Its bookings stay: they have another unit where theirs is no more, and as much kept
 * free around them as it says now.
 * @throws Refusal when somebody else changed it meanwhile, or its bookings leave no way
 */
export async function changePlace(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
  { version, ...change }: PlaceChange,
): Promise<{ version: number; change: number | null }> {
  const now = platform.clock.now();
  const before = await lockPlace(tx, id);
  if (!before || before.isRetired) throw noSuchPlace();
  requireKeeper(actor, [before]);
  if (before.version !== version) {
    throw new Refusal('stale', 'This place was changed meanwhile; look at it again.', {
      fields: [{ field: 'version', message: `must be ${before.version}, the present version` }],
      current: before,
    });
  }
  const after = changed(before, change);
  await requireWithinReach(tx, actor, { ...after, id });
  await refuseUnknown(tx, after, id);
  const changing = { before, after };
  const touched = await readTouched(tx, [changing], now);
  const refusal = whyNot(changing, touched, actor);
  if (refusal) throw refusal;
  applyToBookings(tx, [changing], touched, now);
  updatePlaces(tx, [{ id, ...after }]);
  const done = placeChanged(before, after, before.ownerId);
  const [number = null] = await commitThings(tx, platform, actor, done ? [done] : []);
  return { version: version + 1, change: number };
}

/** What a change would do to the bookings of a place, which nothing of is done. */
export async function previewChange(
  db: Database,
  actor: PersonActor,
  id: number,
  change: Omit<PlaceChange, 'version'>,
  now: number,
): Promise<PlacePreview> {
  const before = await readPlace(db, id);
  if (!before || before.isRetired) throw noSuchPlace();
  requireKeeper(actor, [before]);
  const changing = { before, after: changed(before, change) };
  const coming = await readComing(db, [id], now);
  const words = await readWords(db, [changing], coming, actor);
  const touched = await readTouched(db, [changing], now, new Map([[id, coming]]));
  const against = newlyAgainst(changing, coming, words);
  return {
    against: against.slice(0, MOST_AGAINST),
    total: against.length,
    impossible: whyNot(changing, touched, actor)?.message ?? null,
  };
}

/** Where its bookings could go, if nobody booked a place from now on. */
export const previewRetirement = (db: Database, actor: PersonActor, id: number, now: number) =>
  previewClosure(db, actor, id, { start: now, end: FOREVER });

/** Nobody books a place from now on: what is booked in it goes elsewhere, as when it is out of use. */
export async function retire(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
  { version, ...moves }: RetireRequest,
): Promise<{ moved: number; without: number; change: number }> {
  const now = platform.clock.now();
  const place = await readPlace(tx, id);
  if (!place || place.isRetired) throw noSuchPlace();
  requireKeeper(actor, [place]);
  const span = { start: now, end: FOREVER };
  const done = await closeFor(tx, platform, actor, id, { ...moves, ...span, reason: 'retired' });
  // It is held by now, so that what is read of it stays.
  const held = await readPlace(tx, id);
  if (held?.version !== version || held.isRetired) {
    throw new Refusal('stale', 'This place was changed meanwhile; look at it again.', {
      fields: [{ field: 'version', message: `must be ${held?.version}, the present version` }],
    });
  }
  retirePlaces(tx, [id], now);
  const { fact, edits = [] } = placeRetired(id, place.name);
  const [change] = await commitThings(tx, platform, actor, [
    { fact, edits: [...edits, closureEdit(done.closure)], meetings: done.undo },
  ]);
  return { moved: done.moved, without: done.without, change: change! };
}

/**
 * What is retired can be booked again; where its bookings went, they stay.
 * @returns by which that is taken back
 * @throws Refusal when it is not retired, or its name is another place's by now
 */
export async function bringBack(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
): Promise<number> {
  const place = await lockPlace(tx, id);
  if (!place?.isRetired) {
    throw new Refusal('no-such-place', 'It is no retired place.', {
      fields: [{ field: 'id', message: 'must be the id of a place that is retired' }],
    });
  }
  requireKeeper(actor, [place]);
  const { name, siteId } = place;
  await lockSites(tx, [siteId]);
  await refuseTakenName(tx, { name, siteId }, id);
  const edits = await returnTogether(tx, [id], platform.clock.now());
  const [change] = await commitThings(tx, platform, actor, [
    placeReturned(id, name, edits.get(id)!),
  ]);
  return change!;
}

/**
 * Places that are retired, and held, are there again; what kept them from being booked ends.
 * @returns what that did to each
 */
export async function returnTogether(
  tx: Transaction,
  ids: readonly number[],
  now: number,
): Promise<Map<number, Edit[]>> {
  if (ids.length === 0) return new Map();
  returnPlaces(tx, ids);
  const closures = await readClosures(tx, ids, { start: now, end: FOREVER });
  const ended = closures.filter(({ end }) => end === FOREVER);
  await deleteClosures(tx, ended);
  return new Map(
    ids.map((id) => [
      id,
      [
        { path: 'isRetired', from: true, to: false },
        ...ended
          .filter(({ placeId }) => placeId === id)
          .map(closureEdit)
          .map(({ path, to }) => ({ path, from: to, to: null })),
      ],
    ]),
  );
}

function changed(before: KeptPlace, change: Omit<PlaceChange, 'version'>): NewPlace {
  const { id: _id, zone: _zone, version: _version, isRetired: _retired, ...kept } = before;
  const { ownerId: _owner, rules, ...facts } = kept;
  const given = Object.entries(change).filter(([, value]) => value !== undefined);
  return { ...facts, rules: allRules(rules), ...Object.fromEntries(given) };
}

/** @throws Refusal where a site, a team or a currency is none, or the name is another place's there */
async function refuseUnknown(tx: Transaction, place: NewPlace, own?: number): Promise<void> {
  const sites = await lockSites(tx, [place.siteId]);
  if (!sites.has(place.siteId))
    throw invalid([{ field: 'siteId', message: 'must be the number of a site' }]);
  await refuseTakenName(tx, place, own);
  const teams = await readTeamNames(tx, place.rules.teams ?? []);
  if ((place.rules.teams ?? []).some((id) => !teams.has(id)))
    throw invalid([{ field: 'rules.teams', message: 'must be numbers of teams' }]);
}

/** @throws Refusal where another place at the site has that name */
async function refuseTakenName(
  tx: Transaction,
  { name, siteId }: Pick<NewPlace, 'name' | 'siteId'>,
  own?: number,
): Promise<void> {
  const others = await readPlacesOf(tx, [siteId]);
  const taken = others.some(
    (one) => one.id !== own && one.name.toLowerCase() === name.toLowerCase(),
  );
  if (taken) throw invalid([{ field: 'name', message: 'must not be another place’s at its site' }]);
}
