import fc from 'fast-check';
import { expect, it } from 'vitest';
import { overlaps, type Interval } from '../time/interval.ts';
import { freedBy, minus, type UnitTimes } from './freeing.ts';
import type { UnitClaim } from './units.ts';

const UNITS = 3;

/** Claims of which those of one unit do not overlap. */
const claims = fc
  .array(
    fc.record({
      unit: fc.integer({ min: 1, max: UNITS }),
      start: fc.integer({ min: 0, max: 40 }),
      length: fc.integer({ min: 1, max: 12 }),
    }),
    { maxLength: 14 },
  )
  .map((some) =>
    some
      .map(({ unit, start, length }): UnitClaim => ({ unit, start, end: start + length }))
      .filter(
        (one, k, all) =>
          !all.slice(0, k).some((other) => other.unit === one.unit && overlaps(other, one)),
      ),
  );

/** Whether a booking can have some unit for all of a span, by looking at each of them. */
const fits = (taken: readonly UnitClaim[], span: Interval): boolean =>
  [1, 2, 3].some((unit) => !taken.some((one) => one.unit === unit && overlaps(one, span)));

const without = (known: UnitTimes, { goes, comes }: ReturnType<typeof freedBy>): UnitTimes => ({
  full: [...minus(known.full, goes.full), ...comes.full],
  changes: [...minus(known.changes, goes.changes), ...comes.changes],
});

it('what is known of a resource becomes what it is without a booking, start by start', () => {
  fc.assert(
    fc.property(claims, fc.nat(), (all, pick) => {
      if (all.length === 0) return;
      const own = [all[pick % all.length]!];
      const others = all.filter((one) => one !== own[0]);
      // All that is known beforehand is what nothing leaves: as if it were freed of nothing.
      const nothing = freedBy([], all, UNITS).goes;
      const after = without(nothing, freedBy(others, own, UNITS));
      for (let start = 0; start < 50; start++)
        for (const length of [1, 3, 8]) {
          const span = { start, end: start + length };
          const isTaken = [...after.full, ...after.changes].some((one) => overlaps(one, span));
          expect(!isTaken, `${start}+${length}`).toBe(fits(others, span));
        }
    }),
  );
});
