import { overlaps, type Interval } from '../time/interval.ts';
import { claimedTime, type Buffers } from './booking.ts';
import { brokenRules, type Booker, type BrokenRule, type PlaceRules } from './rules.ts';
import { freeUnit, type UnitClaim } from './units.ts';

/** What a booking has of a place that is changed. */
export interface PlacedBooking extends Interval {
  id: number;
  unit: number;
}

/** Of what a booking can stand against; how early it was made, and how much somebody has, was judged then. */
const JUDGED: readonly BrokenRule['rule'][] = [
  'closed',
  'too-short',
  'too-long',
  'off-step',
  'not-for-you',
  'somebodys',
];

/**
 * What of a place's rules a booking that stands would break if it were made now.
 * @param span its own time
 * @param holder whoever has it
 */
export function brokenByBooking(
  rules: PlaceRules,
  span: Interval,
  holder: Pick<Booker, 'id' | 'teams'>,
  zone: string,
): BrokenRule[] {
  const booker = { ...holder, isSteward: false, has: [] };
  return brokenRules(rules, span, booker, { zone, now: span.start }).filter(({ rule }) =>
    JUDGED.includes(rule),
  );
}

/**
 * Gives bookings that have a unit which is to be no more another one, the earliest first.
 * @param claims what is claimed of each unit, with what is kept free around it
 * @returns those that have another unit, and those for which none is left
 */
export function reassignUnits(
  claims: readonly (UnitClaim & { id: number })[],
  units: number,
): { moved: { id: number; unit: number }[]; stuck: (UnitClaim & { id: number })[] } {
  const kept: UnitClaim[] = claims.filter((one) => one.unit <= units);
  const moved: { id: number; unit: number }[] = [];
  const stuck: (UnitClaim & { id: number })[] = [];
  const over = claims.filter((one) => one.unit > units).sort((a, b) => a.start - b.start);
  for (const one of over) {
    const unit = freeUnit(kept, one, units);
    if (unit === null) {
      stuck.push(one);
      continue;
    }
    kept.push({ ...one, unit });
    moved.push({ id: one.id, unit });
  }
  return { moved, stuck };
}

/**
 * The bookings that would be too close to the one before them if so much were kept free around each.
 * @param bookings their own times
 */
export function tooClose(bookings: readonly PlacedBooking[], buffers: Buffers): PlacedBooking[] {
  const last = new Map<number, Interval>();
  const close: PlacedBooking[] = [];
  for (const one of [...bookings].sort((a, b) => a.start - b.start)) {
    const claimed = claimedTime(one, buffers);
    const before = last.get(one.unit);
    if (before && overlaps(before, claimed)) close.push(one);
    if (!before || before.end < claimed.end) last.set(one.unit, claimed);
  }
  return close;
}
