import type { OfferedAlternative } from '../../contract/eventDetail.ts';
import { claimedTime, nearestFreeTimes, standIns } from '../../core/booking/booking.ts';
import { brokenRules } from '../../core/booking/rules.ts';
import { allUnitsTaken, changeovers, freeUnit, type UnitClaim } from '../../core/booking/units.ts';
import { DAY, MINUTE, contains, gaps, overlaps, type Interval } from '../../core/time/interval.ts';
import { weekOf, workingIntervals, type WorkingHours } from '../../core/time/workingHours.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import type { ResourceFacts } from './queries.ts';
import { LOOK_AROUND_MS, MOST_ALTERNATIVES } from './limits.ts';

/** Times offered instead lie in these hours of the site, unless the wish itself did not. */
const USUAL_HOURS = { start: 7 * 60, end: 20 * 60 };

/** A booking that was refused. */
export interface RefusedWish {
  /** The resource that is taken. */
  wanted: ResourceFacts;
  /** Everything that was wished for at that time. */
  resources: readonly number[];
  /** The booking without buffers. */
  span: Interval;
  /** People who come. */
  people: number;
}

/** What is known around the refused bookings. */
export interface Around {
  /** Every resource there is. */
  resources: readonly ResourceFacts[];
  /** Claims of the resources near the wishes, by resource. */
  claims: ReadonlyMap<number, readonly UnitClaim[]>;
  now: number;
}

/** The places that could stand in for a refused one, taken or not, best first. */
export function standInsFor({ wanted, resources, people }: RefusedWish, all: Around['resources']) {
  const seats = wanted.capacity > 0 ? people : 0;
  const others = all.filter((one) => one.kind === wanted.kind && !resources.includes(one.id));
  return standIns(others, wanted, seats);
}

/** The three nearest things that would do instead: one other place and the two nearest times. */
export function alternatives(wish: RefusedWish, around: Around): OfferedAlternative[] {
  const rooms = freeStandIns(wish, around);
  const times = freeTimes(wish, around);
  // Where one kind is short the other fills up.
  const chosen = rooms.slice(0, Math.max(1, MOST_ALTERNATIVES - times.length));
  return [...chosen, ...times.slice(0, MOST_ALTERNATIVES - chosen.length)];
}

/** Whether a place's rules allow somebody to have it then; whom they are for is not looked at. */
const isAllowed = ({ rules, zone }: ResourceFacts, span: Interval, now: number): boolean => {
  const anybody = { isSteward: false, teams: [], has: [] };
  return brokenRules({ ...rules, teams: null }, span, anybody, { zone, now }).length === 0;
};

/** When a place is shut; what is kept free before and after a booking may lie in it. */
const shutTimes = (
  open: WorkingHours,
  { zone, prepareMinutes, clearMinutes }: ResourceFacts,
  range: Interval,
): Interval[] =>
  gaps(workingIntervals(open, zoneTable(zone, range), range), range)
    .map(({ start, end }) => ({
      start: start + clearMinutes * MINUTE,
      end: end - prepareMinutes * MINUTE,
    }))
    .filter(({ start, end }) => start < end);

/** What a booking may not overlap so that one unit is free for all of it. */
const takenThroughout = (claims: readonly UnitClaim[], units: number): Interval[] => [
  ...allUnitsTaken(claims, units),
  ...changeovers(claims, units),
];

const claimsOf = ({ claims }: Around, id: number, near: Interval) =>
  (claims.get(id) ?? []).filter((claim) => overlaps(claim, near));

function freeStandIns(wish: RefusedWish, around: Around): OfferedAlternative[] {
  const near = { start: wish.span.start - DAY, end: wish.span.end + DAY };
  return standInsFor(wish, around.resources)
    .filter((place) => {
      if (!isAllowed(place, wish.span, around.now)) return false;
      const claims = claimsOf(around, place.id, near);
      return freeUnit(claims, claimedTime(wish.span, place), place.units) !== null;
    })
    .map(({ id, name, capacity, floor }) => ({
      kind: 'resource' as const,
      instead: wish.wanted.id,
      resourceId: id,
      name,
      seats: capacity,
      floor,
    }));
}

function freeTimes({ wanted, resources, span }: RefusedWish, around: Around): OfferedAlternative[] {
  const { rules, zone } = wanted;
  const notice = (rules.noticeMinutes ?? 0) * MINUTE;
  const range = {
    start: Math.max(around.now + notice, span.start - LOOK_AROUND_MS),
    end: span.end + LOOK_AROUND_MS,
  };
  if (range.start >= range.end) return [];
  // A time is offered only where everything else that is wished for is free as well.
  const full = around.resources
    .filter((one) => one.id === wanted.id || resources.includes(one.id))
    .flatMap((one) =>
      takenThroughout(claimsOf(around, one.id, range), one.units).map((taken) => ({
        start: taken.start - (one.clearMinutes - wanted.clearMinutes) * MINUTE,
        end: taken.end + (one.prepareMinutes - wanted.prepareMinutes) * MINUTE,
      })),
    );
  const usual = workingIntervals(weekOf(USUAL_HOURS), zoneTable(zone, range), range);
  const ordinary = usual.some((part) => contains(part, span));
  const closed = ordinary ? gaps(usual, range) : [];
  const shut = rules.open ? shutTimes(rules.open, wanted, range) : [];
  return nearestFreeTimes([...full, ...closed, ...shut], span, wanted, range, MOST_ALTERNATIVES)
    .filter((time) => isAllowed(wanted, time, around.now))
    .map(({ start, end }) => ({
      kind: 'time',
      resourceId: wanted.id,
      name: wanted.name,
      start,
      end,
    }));
}
