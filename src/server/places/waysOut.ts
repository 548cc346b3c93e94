import type { TakenResource, WayOut } from '../../contract/events.ts';
import type { Me } from '../../contract/session.ts';
import { claimedTime, nearestFreeTimes, standIns } from '../../core/booking/booking.ts';
import { allUnitsTaken, freeUnit } from '../../core/booking/units.ts';
import { DAY, contains, gaps, type Interval } from '../../core/time/interval.ts';
import { weekOf, workingIntervals } from '../../core/time/workingHours.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import type { Database } from '../db/transaction.ts';
import { Sharing } from '../sharing/service.ts';
import { readBookings, readClaims, readResources, type ResourceFacts } from './queries.ts';
import { seenBooking } from './service.ts';

const MOST_WAYS = 3;
const LOOK_AROUND = 7 * DAY;
/** Times offered instead lie in these hours of the site, unless the wish itself did not. */
const USUAL_HOURS = { start: 7 * 60, end: 20 * 60 };

interface Wish {
  resources: readonly number[];
  /** The booking without buffers. */
  span: Interval;
  /** People who come. */
  people: number;
  /** The event that is being changed; its own booking does not stand in its way. */
  except: string | null;
}

/**
 * What stands in the way of a booking that was refused, as far as the asker may see, and the three
 * nearest things that would do instead for the first resource that is taken.
 */
export async function explainTaken(
  db: Database,
  me: Me,
  wish: Wish,
  now: number,
): Promise<{ taken: TakenResource[]; waysOut: WayOut[] }> {
  const resources = await readResources(db, wish.resources);
  const taken: TakenResource[] = [];
  let firstTaken: ResourceFacts | null = null;
  for (const resource of resources) {
    const claimed = claimedTime(wish.span, resource);
    const rows = await readBookings(db, me.id, [resource.id], claimed.start, claimed.end);
    const inTheWay = rows.filter((row) => row.eventId !== wish.except);
    if (inTheWay.length < resource.units) continue;
    firstTaken ??= resource;
    const sharing = await Sharing.of(
      db,
      me,
      inTheWay.map((row) => row.organizerId),
    );
    for (const row of inTheWay) {
      const { start, end, title, holder } = seenBooking(row, me, sharing);
      taken.push({ resourceId: resource.id, name: resource.name, start, end, title, holder });
    }
  }
  const waysOut = firstTaken ? await findWaysOut(db, firstTaken, wish, now) : [];
  return { taken, waysOut };
}

async function findWaysOut(
  db: Database,
  wanted: ResourceFacts,
  wish: Wish,
  now: number,
): Promise<WayOut[]> {
  const [rooms, times] = await Promise.all([
    freeStandIns(db, wanted, wish),
    freeTimes(db, wanted, wish, now),
  ]);
  // One other room and the two nearest times; where one kind is short the other fills up.
  const roomCount = Math.max(1, MOST_WAYS - times.length);
  const chosen = rooms.slice(0, roomCount);
  return [...chosen, ...times.slice(0, MOST_WAYS - chosen.length)];
}

async function freeStandIns(
  db: Database,
  wanted: ResourceFacts,
  { span, people, resources }: Wish,
): Promise<WayOut[]> {
  const all = await readResources(db, null);
  const seats = wanted.capacity > 0 ? people : 0;
  const candidates = standIns(
    all.filter((place) => place.kind === wanted.kind && !resources.includes(place.id)),
    wanted,
    seats,
  );
  const claims = await readClaims(
    db,
    candidates.map((place) => place.id),
    span.start - DAY,
    span.end + DAY,
  );
  return candidates
    .filter((place) => {
      const own = claims.filter((claim) => claim.resourceId === place.id);
      return freeUnit(own, claimedTime(span, place), place.units) !== null;
    })
    .map(({ id, name, capacity, floor }) => ({
      kind: 'resource' as const,
      instead: wanted.id,
      resourceId: id,
      name,
      seats: capacity,
      floor,
    }));
}

async function freeTimes(
  db: Database,
  wanted: ResourceFacts,
  { span }: Wish,
  now: number,
): Promise<WayOut[]> {
  const range = {
    start: Math.max(now, span.start - LOOK_AROUND),
    end: span.end + LOOK_AROUND,
  };
  const claims = await readClaims(db, [wanted.id], range.start, range.end);
  const full = allUnitsTaken(claims, wanted.units);
  const usual = workingIntervals(weekOf(USUAL_HOURS), zoneTable(wanted.zone, range), range);
  const ordinary = usual.some((hours) => contains(hours, span));
  const closed = ordinary ? gaps(usual, range) : [];
  return nearestFreeTimes([...full, ...closed], span, wanted, range, MOST_WAYS).map(
    ({ start, end }) => ({ kind: 'time', resourceId: wanted.id, name: wanted.name, start, end }),
  );
}
