import {
  type Place,
  type PlaceDay,
  type PlacesQuery,
  type PlacesResponse,
} from '../../contract/places.ts';
import { MOST_FAVOURITES } from '../../contract/limits.ts';
import { brokenRules, NO_RULES, type BrokenRule } from '../../core/booking/rules.ts';
import { brokenInWords, rulesInWords } from '../../core/booking/ruleWords.ts';
import { allUnitsTaken } from '../../core/booking/units.ts';
import { Refusal } from '../../core/refusal.ts';
import { clip, DAY, MINUTE, overlaps, type Interval } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay } from '../../core/time/wall.ts';
import { Levels, may, projectBooking } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import {
  readClaims,
  readClosures,
  readTeamNames,
  readTeams,
  type ResourceClaim,
} from '../reservations/index.ts';
import {
  insertFavourite,
  readBookings,
  readFavourites,
  readFloors,
  readInOrder,
  readListed,
  readPlaceResources,
  readSites,
  type ListedPlace,
  type ResourceFacts,
} from './queries.ts';
import { NEXT_BOOKING_WITHIN_MS } from './limits.ts';

/** A part of the places there are, each with its state at this moment. */
export async function placesNow(
  db: Database,
  actor: PersonActor,
  query: PlacesQuery,
  now: number,
): Promise<PlacesResponse> {
  const [listed, teams, sites, floors] = await Promise.all([
    readListed(db, actor.me.id, query, now),
    readTeams(db, actor.me.id),
    readSites(db),
    query.site === undefined ? [] : readFloors(db, query.site),
  ]);
  const isHad = ({ isFree, ...place }: ListedPlace) =>
    isFree && barredNow(place, actor, teams, now).length === 0;
  const free = listed.filter(isHad);
  const shown = query.free ? free : listed;
  const from = query.after === undefined ? 0 : shown.findIndex((one) => one.id === query.after) + 1;
  const page = shown.slice(from, from + query.limit).map((one) => one.id);
  return {
    places: await withState(db, actor, await readInOrder(db, page), now, teams),
    ...{ total: shown.length, free: free.length },
    sites: sites.map(({ id, name }) => ({ id, name })),
    floors,
  };
}

/**
 * One place with its state at this moment.
 * @throws Refusal when there is none
 */
export async function placeNow(
  db: Database,
  actor: PersonActor,
  id: number,
  now: number,
): Promise<Place> {
  const [resource, teams] = await Promise.all([findResource(db, id), readTeams(db, actor.me.id)]);
  const [place] = await withState(db, actor, [resource], now, teams);
  return place!;
}

/** What keeps a reader from having a place at this moment, whoever has it: its hours, whose it is, for whom. */
function barredNow(
  {
    id,
    rules: { open, teams: forTeams, assigned },
    zone,
  }: Pick<ResourceFacts, 'id' | 'rules' | 'zone'>,
  actor: PersonActor,
  teams: readonly number[],
  now: number,
): BrokenRule[] {
  const rules = { ...NO_RULES, open, teams: forTeams, ...(assigned && { assigned }) };
  const booker = { id: actor.me.id, isSteward: may(actor, 'exceed', id), teams, has: [] };
  return brokenRules(rules, { start: now, end: now + MINUTE }, booker, { zone, now });
}

async function withState(
  db: Database,
  actor: PersonActor,
  resources: readonly ResourceFacts[],
  now: number,
  teams: readonly number[],
): Promise<Place[]> {
  const ids = resources.map((resource) => resource.id);
  const [claims, bookings, closures] = await Promise.all([
    // Back to the beginning of the day, wherever it is.
    readClaims(db, ids, { start: now - 2 * DAY, end: now + NEXT_BOOKING_WITHIN_MS }),
    readBookings(db, actor.principals, ids, now, now + 1),
    readClosures(db, ids, { start: now, end: now + 1 }),
  ]);
  const [levels, teamNames] = await Promise.all([
    Levels.of(
      db,
      actor,
      bookings.map((booking) => booking.organizerId),
    ),
    readTeamNames(
      db,
      resources.flatMap(({ rules }) => rules.teams ?? []),
    ),
  ]);
  const words = { clock: actor.me.clock, teamNames };
  const claimsOf = new Map<number, typeof claims>(ids.map((id) => [id, []]));
  for (const claim of claims) claimsOf.get(claim.resourceId)!.push(claim);
  return resources.map((resource) => {
    const taken = claimsOf.get(resource.id)!;
    const current = bookings.find((booking) => booking.resourceId === resource.id);
    const seen = current ? projectBooking(current, levels) : null;
    const [barred] = barredNow(resource, actor, teams, now);
    return {
      ...resource,
      ruleWords: rulesInWords(resource.rules, resource, words),
      barred: barred ? brokenInWords(barred, { ...words, rules: resource.rules }) : null,
      ...stateAt(taken, resource.units, now),
      today: dayOf(taken, resource, now),
      holder: seen?.holder ?? null,
      title: seen?.title ?? null,
      closure: closures.find((one) => one.placeId === resource.id) ?? null,
    };
  });
}

/** Free units at an instant, and when the resource next becomes full, or free again. */
function stateAt(
  taken: readonly (Interval & { unit: number })[],
  units: number,
  now: number,
): Pick<Place, 'freeUnits' | 'until'> {
  const inUse = new Set(
    taken.filter((claim) => claim.start <= now && now < claim.end).map((claim) => claim.unit),
  );
  const full = allUnitsTaken(taken, units);
  const next =
    inUse.size === units
      ? full.find((span) => span.start <= now && now < span.end)?.end
      : full.find((span) => span.start > now)?.start;
  return { freeUnits: units - inUse.size, until: next ?? null };
}

/** How taken a resource is on the day that it is there now. */
function dayOf(
  taken: readonly ResourceClaim[],
  { units, zone }: ResourceFacts,
  now: number,
): Place['today'] {
  const date = dateAt(now, zone);
  const day = { start: startOfDay(date, zone), end: startOfDay(addDays(date, 1), zone) };
  const that = taken.filter((claim) => overlaps(claim, day));
  return {
    ...day,
    taken: allUnitsTaken(that, units).flatMap((span) => clip(span, day) ?? []),
    bookings: that.filter((claim) => claim.reservationId !== null).length,
  };
}

/** A resource's bookings on one day of its site's calendar. */
export async function readPlaceDay(
  db: Database,
  actor: PersonActor,
  id: number,
  date: string,
): Promise<PlaceDay> {
  const resource = await findResource(db, id);
  const dayStart = startOfDay(date, resource.zone);
  const dayEnd = startOfDay(addDays(date, 1), resource.zone);
  const [bookings, closures] = await Promise.all([
    readBookings(db, actor.principals, [id], dayStart, dayEnd),
    readClosures(db, [id], { start: dayStart, end: dayEnd }),
  ]);
  const levels = await Levels.of(
    db,
    actor,
    bookings.map((booking) => booking.organizerId),
  );
  return {
    dayStart,
    dayEnd,
    closures,
    bookings: bookings.map((row) => projectBooking(row, levels)),
  };
}

/**
 * Puts a place among those that somebody wants to see first.
 * @throws Refusal when there is no such place, or they have too many
 */
export async function addFavourite(tx: Transaction, personId: number, id: number): Promise<void> {
  await findResource(tx, id);
  const before = await readFavourites(tx, personId);
  if (before.length >= MOST_FAVOURITES && !before.includes(id)) {
    throw new Refusal(
      'too-many-favourites',
      `At most ${MOST_FAVOURITES} places can be favourites. Leave another one out first.`,
      { fields: [{ field: 'id', message: `may be one of at most ${MOST_FAVOURITES}` }] },
    );
  }
  insertFavourite(tx, personId, id);
}

async function findResource(db: Database, id: number): Promise<ResourceFacts> {
  const [resource] = await readPlaceResources(db, [id]);
  if (!resource) {
    throw new Refusal('no-such-place', 'There is no such place.', {
      fields: [{ field: 'id', message: 'must be the id of a room or another resource' }],
    });
  }
  return resource;
}
