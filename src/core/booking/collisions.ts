import { MINUTE, overlaps, type Interval } from '../time/interval.ts';
import { claimedTime, type Buffers } from './booking.ts';
import { brokenRules, NO_RULES, type BrokenRule, type PlaceRules } from './rules.ts';
import type { UnitClaim } from './units.ts';

/** A place as far as it decides whether it can be had. */
export interface BookablePlace extends Buffers {
  id: number;
  units: number;
  zone: string;
  rules: PlaceRules;
}

/** A booking of it: its own time, without what is kept free before and after. */
export interface PlaceClaim extends UnitClaim {
  resourceId: number;
}

/** Why a place cannot be had for a time: who has it, or what its rules say. */
export type Collision<Booking> =
  { kind: 'taken'; by: Booking[] } | { kind: 'rules'; broken: BrokenRule[] };

/**
 * What stands in the way of having a place for a time; null when nothing does that is known here. What
 * somebody has of it in other weeks, and for which teams it is, only the server knows.
 * @param bookings of any place, their own times
 */
export function collisionWith<Booking extends PlaceClaim>(
  place: BookablePlace,
  span: Interval,
  bookings: readonly Booking[],
  { id, isSteward, now }: { id?: number; isSteward: boolean; now: number },
): Collision<Booking> | null {
  const rules = { ...place.rules, teams: null, weeklyMinutes: null };
  const broken = brokenRules(
    rules,
    span,
    { id: id ?? null, isSteward, teams: [], has: [] },
    { ...place, now },
  );
  if (broken.length > 0) return { kind: 'rules', broken };
  const claimed = claimedTime(span, place);
  const by = bookings.filter(
    (one) => one.resourceId === place.id && overlaps(claimedTime(one, place), claimed),
  );
  return new Set(by.map((one) => one.unit)).size >= place.units ? { kind: 'taken', by } : null;
}

/**
 * How many of some places are free in each step of a window: open, and with a unit that nobody has,
 * what is kept free before and after counted as taken.
 */
export function freePlaces(
  places: readonly BookablePlace[],
  bookings: readonly PlaceClaim[],
  window: Interval,
  stepMinutes: number,
): number[] {
  const step = stepMinutes * MINUTE;
  const count = Math.max(0, Math.ceil((window.end - window.start) / step));
  const free = new Array<number>(count).fill(0);
  const ofPlace = new Map<number, PlaceClaim[]>(places.map((one) => [one.id, []]));
  for (const one of bookings) ofPlace.get(one.resourceId)?.push(one);
  const anybody = { isSteward: false, teams: [], has: [] };
  for (const place of places) {
    const inUse = new Array<Set<number> | undefined>(count);
    for (const one of ofPlace.get(place.id)!) {
      const { start, end } = claimedTime(one, place);
      const first = Math.max(0, Math.floor((start - window.start) / step));
      const last = Math.min(count, Math.ceil((end - window.start) / step));
      for (let k = first; k < last; k++) (inUse[k] ??= new Set()).add(one.unit);
    }
    const hours = place.rules.open && { ...NO_RULES, open: place.rules.open };
    for (let k = 0; k < count; k++) {
      if ((inUse[k]?.size ?? 0) >= place.units) continue;
      const span = { start: window.start + k * step, end: window.start + (k + 1) * step };
      if (hours && brokenRules(hours, span, anybody, { ...place, now: 0 }).length > 0) continue;
      free[k]!++;
    }
  }
  return free;
}
