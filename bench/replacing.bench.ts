/** Other places for the bookings of one that goes out of use, chosen together. */
import { claimedTime } from '../src/core/booking/booking.ts';
import { replace, type AffectedBooking, type Alternative } from '../src/core/booking/replacing.ts';
import { NO_RULES } from '../src/core/booking/rules.ts';
import { HOUR, MINUTE, overlaps } from '../src/core/time/interval.ts';
import { medianMs, report } from './measure.ts';

const PLACES = 40;
const BOOKINGS = 200;
const FROM = Date.UTC(2026, 3, 6);

/** The same numbers on every run. */
let seed = 7;
const random = (below: number) => {
  seed = (seed * 48_271) % 2_147_483_647;
  return seed % below;
};
const FEATURES = ['screen', 'video', 'whiteboard', 'hearing loop'];
const some = <T>(all: readonly T[]) => all.filter(() => random(3) > 0);
const spanAt = (day: number) => {
  const start = FROM + day * 24 * HOUR + (8 * 4 + random(36)) * 15 * MINUTE;
  return { start, end: start + (2 + random(6)) * 15 * MINUTE };
};

const home = { id: 0, siteId: 1, floor: '1', capacity: 12, features: FEATURES };
const refuges = Array.from({ length: PLACES }, (_, k): Alternative => {
  const place = { prepareMinutes: random(2) * 15, clearMinutes: random(2) * 15 };
  return {
    ...place,
    id: k + 1,
    siteId: 1,
    floor: String(random(4)),
    capacity: 4 + random(16),
    features: some(FEATURES),
    units: 1,
    rules: NO_RULES,
    zone: 'UTC',
    // Well used: most of each day is somebody's.
    taken: Array.from({ length: 20 * 6 }, (_, n) => ({
      unit: 1,
      ...claimedTime(spanAt(n % 20), place),
    })),
  };
});
// Ten a day for four weeks, several of them at the same time: as if a whole floor were closed.
const bookings = Array.from({ length: BOOKINGS }, (_, k): AffectedBooking => ({
  id: String(k),
  span: spanAt(k % 20),
  people: 1 + random(12),
  teams: [],
  shiftMinutes: random(4) === 0 ? 60 : 0,
}));

/** Each takes the first place that fits, in the order in which they come. */
function oneByOne(): { placed: number; shifted: number } {
  const taken = refuges.map((one) => [...one.taken]);
  let placed = 0;
  for (const { span, people } of bookings) {
    const k = refuges.findIndex(
      (place, at) =>
        place.capacity >= people &&
        !taken[at]!.some((claim) => overlaps(claim, claimedTime(span, place))),
    );
    if (k < 0) continue;
    taken[k]!.push({ unit: 1, ...claimedTime(span, refuges[k]!) });
    placed++;
  }
  return { placed, shifted: 0 };
}

let found = replace(bookings, home, refuges);
const together = await medianMs(15, () => {
  found = replace(bookings, home, refuges);
});
let first = oneByOne();
const alone = await medianMs(15, () => {
  first = oneByOne();
});
const moved = found.moves.filter(
  (one) => one.span.start !== bookings[Number(one.id)]!.span.start,
).length;
report(
  `other places for ${BOOKINGS} bookings among ${PLACES} places, together`,
  together,
  alone,
  `each the first that fits, which places ${first.placed}; together ${found.moves.length}, ${moved} of them at another time, ${found.isBest ? 'the best there is' : 'the best found'}; 500 ms are allowed`,
);
