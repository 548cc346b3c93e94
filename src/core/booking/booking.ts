import { MINUTE, clip, overlaps, type Interval } from '../time/interval.ts';

/** Minutes kept free before and after a booking of a resource. */
export interface Buffers {
  prepareMinutes: number;
  clearMinutes: number;
}

/** What a booking claims: its own time widened by preparation and clearing. */
export const claimedTime = (booking: Interval, buffers: Buffers): Interval => ({
  start: booking.start - buffers.prepareMinutes * MINUTE,
  end: booking.end + buffers.clearMinutes * MINUTE,
});

/**
 * Times near a wish at which the resource is free for the whole booking and its buffers.
 * @param taken claims with their buffers, in any order, of one unit, or what `allUnitsTaken` and
 *   `changeovers` say of several
 * @param wish the booking that was refused, without buffers
 * @param range where to look; bookings with their buffers lie inside it
 * @param stepMinutes distance of the starts tried from the wished one
 * @returns at most `limit` bookings without buffers, nearest first, the later one on a tie,
 *   none overlapping another
 */
export function nearestFreeTimes(
  taken: readonly Interval[],
  wish: Interval,
  buffers: Buffers,
  range: Interval,
  limit: number,
  stepMinutes = 15,
): Interval[] {
  const step = stepMinutes * MINUTE;
  const found: Interval[] = [];
  const steps = Math.ceil((range.end - range.start) / step);
  const tryStart = (start: number) => {
    const booking = { start, end: start + wish.end - wish.start };
    const claimed = claimedTime(booking, buffers);
    const inside = clip(claimed, range);
    if (!inside || inside.start !== claimed.start || inside.end !== claimed.end) return;
    if (taken.some((claim) => overlaps(claim, claimed))) return;
    if (found.some((other) => overlaps(other, booking))) return;
    found.push(booking);
  };
  for (let k = 1; k <= steps && found.length < limit; k++) {
    tryStart(wish.start + k * step);
    if (found.length < limit) tryStart(wish.start - k * step);
  }
  return found;
}

export interface PlaceFacts {
  id: number;
  siteId: number;
  floor: string;
  capacity: number;
  features: readonly string[];
}

/**
 * Places that could stand in for one that is taken: at the same site, with seats enough; best first:
 * same floor, then the fewest of the wanted features missing, then the nearest in size.
 */
export function standIns<T extends PlaceFacts>(
  places: readonly T[],
  wanted: PlaceFacts,
  seats: number,
): T[] {
  const missing = (place: PlaceFacts) =>
    wanted.features.filter((feature) => !place.features.includes(feature)).length;
  const misfit = (place: PlaceFacts) => Math.abs(place.capacity - wanted.capacity);
  return places
    .filter(
      (place) =>
        place.id !== wanted.id && place.siteId === wanted.siteId && place.capacity >= seats,
    )
    .sort(
      (a, b) =>
        Number(b.floor === wanted.floor) - Number(a.floor === wanted.floor) ||
        missing(a) - missing(b) ||
        misfit(a) - misfit(b) ||
        a.id - b.id,
    );
}
