import { HOUR, type Interval } from '../time/interval.ts';
import { claimedTime, type Buffers } from './booking.ts';
import { freeUnit, type UnitClaim } from './units.ts';

/** Somebody who waits for a place. */
export interface Waiter extends Interval {
  id: number;
  placeId: number;
  /** Epoch milliseconds. */
  askedAt: number;
}

/** So long somebody has to take what came free. */
const TO_TAKE_IT = HOUR;

/** Until when something that came free is held for whoever waited; not longer than until it begins. */
export const heldUntil = ({ start }: Interval, now: number): number =>
  Math.min(now + TO_TAKE_IT, start);

/**
 * Who of those who wait has what they wait for now: first come, first served. Whoever waits for a time
 * that is still taken keeps nobody from another.
 * @param places by id, those that are gone missing
 * @param claims what is taken of each place, with what is kept free around it
 */
export function whoGets<W extends Waiter>(
  waiting: readonly W[],
  places: ReadonlyMap<number, Buffers & { units: number }>,
  claims: ReadonlyMap<number, readonly UnitClaim[]>,
): W[] {
  const taken = new Map([...claims].map(([id, some]) => [id, [...some]]));
  return [...waiting]
    .sort((a, b) => a.askedAt - b.askedAt || a.id - b.id)
    .filter((one) => {
      const place = places.get(one.placeId);
      if (!place) return false;
      const claimed = claimedTime(one, place);
      const there = taken.get(one.placeId) ?? [];
      const unit = freeUnit(there, claimed, place.units);
      if (unit === null) return false;
      taken.set(one.placeId, [...there, { unit, ...claimed }]);
      return true;
    });
}
