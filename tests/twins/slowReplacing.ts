import type { AffectedBooking, Alternative } from '../../src/core/booking/replacing.ts';
import type { PlaceFacts } from '../../src/core/booking/booking.ts';

const MINUTE = 60_000;

/** What a replacement comes to, the first counting most; less is better. */
export type Score = [unplaced: number, shifted: number, lacking: number, walking: number];

const isLess = (a: Score, b: Score): boolean => {
  const k = a.findIndex((value, at) => value !== b[at]);
  return k >= 0 && a[k]! < b[k]!;
};

interface Placed {
  place: Alternative;
  unit: number;
  start: number;
  end: number;
}

/** Every way to place some bookings tried in full, and the best of their scores. */
export function bestBySlowReplacing(
  bookings: readonly AffectedBooking[],
  home: PlaceFacts,
  refuges: readonly Alternative[],
): Score {
  let best: Score = [Infinity, 0, 0, 0];
  const all: (Placed | null)[] = [];
  const go = (k: number) => {
    if (k === bookings.length) {
      const score = scoreOf(bookings, home, all);
      if (isLess(score, best)) best = score;
      return;
    }
    const { span, people, shiftMinutes } = bookings[k]!;
    all.push(null);
    go(k + 1);
    all.pop();
    for (const place of refuges) {
      if (place.id === home.id || place.siteId !== home.siteId || place.capacity < people) continue;
      for (let by = -shiftMinutes; by <= shiftMinutes; by++) {
        if (by % 15 !== 0) continue;
        for (let unit = 1; unit <= place.units; unit++) {
          const placed = {
            place,
            unit,
            start: span.start + by * MINUTE,
            end: span.end + by * MINUTE,
          };
          if (!isFree(placed, all)) continue;
          all.push(placed);
          go(k + 1);
          all.pop();
        }
      }
    }
  };
  go(0);
  return best;
}

/** Minute by minute, what is kept free around it included. */
function isFree({ place, unit, start, end }: Placed, others: readonly (Placed | null)[]): boolean {
  const from = start - place.prepareMinutes * MINUTE;
  const to = end + place.clearMinutes * MINUTE;
  for (let at = from; at < to; at += MINUTE) {
    if (place.taken.some((one) => one.unit === unit && one.start <= at && at < one.end))
      return false;
    for (const other of others) {
      if (!other || other.place !== place || other.unit !== unit) continue;
      const begins = other.start - place.prepareMinutes * MINUTE;
      if (begins <= at && at < other.end + place.clearMinutes * MINUTE) return false;
    }
  }
  return true;
}

function scoreOf(
  bookings: readonly AffectedBooking[],
  home: PlaceFacts,
  all: readonly (Placed | null)[],
): Score {
  const score: Score = [0, 0, 0, 0];
  all.forEach((placed, k) => {
    if (!placed) {
      score[0]++;
      return;
    }
    if (placed.start !== bookings[k]!.span.start) score[1]++;
    for (const feature of home.features) if (!placed.place.features.includes(feature)) score[2]++;
    if (placed.place.floor !== home.floor) score[3]++;
  });
  return score;
}
