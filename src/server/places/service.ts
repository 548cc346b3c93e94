import type { Place, PlaceBooking, PlaceDay } from '../../contract/places.ts';
import type { Me } from '../../contract/session.ts';
import { claimedTime } from '../../core/booking/booking.ts';
import { allUnitsTaken, freeUnit } from '../../core/booking/units.ts';
import { DAY, type Interval } from '../../core/time/interval.ts';
import { addDays, startOfDay, type WallTime } from '../../core/time/wall.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { invalid, Problem } from '../http/problem.ts';
import { Sharing } from '../sharing/service.ts';
import {
  lockResources,
  readBookings,
  readClaims,
  readResources,
  type BookingRow,
  type ResourceFacts,
} from './queries.ts';

interface Wish extends Interval {
  resourceId: number;
}

/** Wishes for which every unit is taken; callers of `bookUnits` throw it to refuse them all. */
export class ResourcesTaken extends Error {
  constructor(readonly wishes: readonly (Wish & { recurrenceId: WallTime | null })[]) {
    super('resources are taken');
  }
}

/** @throws Problem 400 naming the first id that is no resource's */
export async function checkResources(
  db: Database,
  ids: readonly number[],
  field: (index: number) => string = (k) => `resources.${k}`,
): Promise<void> {
  if (ids.length === 0) return;
  const resources = await readResources(db, ids);
  const unknown = ids.findIndex((id) => !resources.some((resource) => resource.id === id));
  if (unknown >= 0) {
    throw invalid([{ field: field(unknown), message: 'must be the id of a resource' }]);
  }
}

/**
 * Holds resources for the rest of the transaction and picks a unit for each wish, in their order.
 * @param wishes bookings without buffers, of resources that exist
 * @returns spans to claim, buffers included, and the wishes for which no unit is free
 */
export async function bookUnits<T extends Wish>(
  tx: Transaction,
  wishes: readonly T[],
): Promise<{ booked: (T & { unit: number })[]; taken: T[] }> {
  if (wishes.length === 0) return { booked: [], taken: [] };
  const ids = [...new Set(wishes.map((wish) => wish.resourceId))];
  await lockResources(tx, ids);
  const resources = new Map((await readResources(tx, ids)).map((one) => [one.id, one]));
  const existing = await readClaims(
    tx,
    ids,
    Math.min(...wishes.map((wish) => wish.start)) - DAY,
    Math.max(...wishes.map((wish) => wish.end)) + DAY,
  );
  const claims = new Map(ids.map((id) => [id, existing.filter((one) => one.resourceId === id)]));
  const booked: (T & { unit: number })[] = [];
  const taken: T[] = [];
  for (const wish of wishes) {
    const resource = resources.get(wish.resourceId)!;
    const span = claimedTime(wish, resource);
    const unit = freeUnit(claims.get(resource.id)!, span, resource.units);
    if (unit === null) {
      taken.push(wish);
    } else {
      claims.get(resource.id)!.push({ resourceId: resource.id, unit, ...span });
      booked.push({ ...wish, ...span, unit });
    }
  }
  return { booked, taken };
}

const LOOK_AHEAD = 7 * DAY;

/** Every resource with its state at this moment. */
export async function placesNow(db: Database, me: Me, now: number): Promise<Place[]> {
  const resources = await readResources(db, null);
  const ids = resources.map((resource) => resource.id);
  const [claims, bookings] = await Promise.all([
    readClaims(db, ids, now, now + LOOK_AHEAD),
    readBookings(db, me.id, ids, now, now + 1),
  ]);
  const sharing = await Sharing.of(
    db,
    me,
    bookings.map((booking) => booking.organizerId),
  );
  const claimsOf = new Map<number, typeof claims>(ids.map((id) => [id, []]));
  for (const claim of claims) claimsOf.get(claim.resourceId)!.push(claim);
  return resources.map((resource) => {
    const taken = claimsOf.get(resource.id)!;
    const current = bookings.find((booking) => booking.resourceId === resource.id);
    const seen = current ? seenBooking(current, me, sharing) : null;
    const { prepareMinutes: _prepare, clearMinutes: _clear, ...facts } = resource;
    return {
      ...facts,
      ...stateAt(taken, resource.units, now),
      holder: seen?.holder ?? null,
      title: seen?.title ?? null,
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

/** A resource's bookings on one day of its site's calendar. */
export async function placeDay(db: Database, me: Me, id: number, date: string): Promise<PlaceDay> {
  const resource = await findResource(db, id);
  const dayStart = startOfDay(date, resource.zone);
  const dayEnd = startOfDay(addDays(date, 1), resource.zone);
  const bookings = await readBookings(db, me.id, [id], dayStart, dayEnd);
  const sharing = await Sharing.of(
    db,
    me,
    bookings.map((booking) => booking.organizerId),
  );
  return { dayStart, dayEnd, bookings: bookings.map((row) => seenBooking(row, me, sharing)) };
}

async function findResource(db: Database, id: number): Promise<ResourceFacts> {
  const [resource] = await readResources(db, [id]);
  if (!resource) {
    throw new Problem(404, 'no-such-place', 'There is no such place.', {
      fields: [{ field: 'id', message: 'must be the id of a room or another resource' }],
    });
  }
  return resource;
}

/** A booking as far as the viewer may see it: that it is taken, then by whom, then what for. */
export function seenBooking(row: BookingRow, me: Me, sharing: Sharing): PlaceBooking {
  const holder = row.takesPart || sharing.seesHolder(row.organizerId);
  const title = row.takesPart || sharing.seesTitle(row.organizerId, row.visibility);
  return {
    eventId: title ? row.eventId : null,
    start: row.start,
    end: row.end,
    unit: row.unit,
    title: title ? row.title : null,
    holder: holder ? row.organizer : null,
    mine: row.organizerId === me.id,
  };
}
