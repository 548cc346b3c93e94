import { Temporal } from 'temporal-polyfill';
import type { FindablePlace, FindWishes } from '../../src/core/booking/finding.ts';
import type { Booker } from '../../src/core/booking/rules.ts';
import { brokenBySlowRules } from './slowRules.ts';

const MINUTE = 60_000;

/** When a place can first be had for a wish, minute by minute of its clock, looking at nothing cleverly. */
function slowFirstFree(
  place: FindablePlace,
  { time }: FindWishes,
  who: Omit<Booker, 'isSteward'>,
  now: number,
): number | null {
  for (let minute = time.from; minute + time.minutes <= time.to; minute += 15) {
    const start = Temporal.PlainDate.from(time.date)
      .add({ days: minute < 1440 ? 0 : 1 })
      .toPlainDateTime({ hour: Math.floor(minute / 60) % 24, minute: minute % 60 })
      .toZonedDateTime(place.zone).epochMilliseconds;
    const end = start + time.minutes * MINUTE;
    if (start < now) continue;
    const inUse = new Set<number>();
    for (const claim of place.taken)
      for (
        let at = start - place.prepareMinutes * MINUTE;
        at < end + place.clearMinutes * MINUTE;
        at += MINUTE
      )
        if (claim.start <= at && at < claim.end) inUse.add(claim.unit);
    if (inUse.size >= place.units) continue;
    if (
      place.isKept ||
      brokenBySlowRules(
        place.rules,
        { start, end },
        { ...who, isSteward: false },
        { zone: place.zone, now },
      ).length === 0
    )
      return start;
  }
  return null;
}

function suits(place: FindablePlace, wishes: FindWishes): boolean {
  const words = `${place.name} ${place.description} ${place.features.join(' ')}`.toLowerCase();
  return (
    (wishes.siteId === null || place.siteId === wishes.siteId) &&
    (wishes.floor === null || place.floor === wishes.floor) &&
    place.capacity >= (wishes.seats > 1 ? wishes.seats : 0) &&
    wishes.features.every((one) => place.features.includes(one)) &&
    (wishes.text === '' ||
      wishes.text
        .toLowerCase()
        .split(' ')
        .every((one) => words.includes(one)))
  );
}

/** What is found, by id with the instant from which it is free, and how many are free without a condition. */
export function slowFind(
  places: readonly FindablePlace[],
  wishes: FindWishes,
  who: Omit<Booker, 'isSteward'>,
  now: number,
) {
  const freeOf = (some: FindWishes) =>
    places.filter((one) => suits(one, some) && slowFirstFree(one, some, who, now) !== null).length;
  const before = freeOf(wishes);
  return {
    /** How many of those that are not free then have some half hour between eight and six. */
    anyTime: places.filter(
      (one) =>
        suits(one, wishes) &&
        slowFirstFree(one, wishes, who, now) === null &&
        slowFirstFree(
          one,
          { ...wishes, time: { ...wishes.time, from: 480, to: 1080, minutes: 30 } },
          who,
          now,
        ) !== null,
    ).length,
    found: places
      .filter((one) => suits(one, wishes))
      .map((one) => ({ id: one.id, free: slowFirstFree(one, wishes, who, now) })),
    /** How many more would be free without one condition. */
    without: (fewer: Partial<FindWishes>) => freeOf({ ...wishes, ...fewer }) - before,
  };
}
