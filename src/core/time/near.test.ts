import fc from 'fast-check';
import { expect, it } from 'vitest';
import { DAY, HOUR, overlaps } from './interval.ts';
import { NearIntervals } from './near.ts';

it('finds just those that overlap, each once', () => {
  const interval = fc
    .tuple(
      fc.integer({ min: -4000, max: 4000 }),
      fc.oneof(fc.integer({ min: 0, max: 60 }), fc.constant(24 * 50)),
    )
    .map(([start, length]) => ({ start: start * HOUR, end: (start + length) * HOUR }));
  fc.assert(
    fc.property(fc.array(interval, { maxLength: 60 }), interval, (all, span) => {
      const near = new NearIntervals(all);
      const found = near.overlapping(span);
      expect(new Set(found)).toEqual(new Set(all.filter((one) => overlaps(one, span))));
      expect(found.length).toBe(new Set(found).size);
    }),
  );
});

it('looks at the day that an interval ends in, and not at the one that begins with its end', () => {
  const near = new NearIntervals([{ start: 0, end: DAY }]);
  expect(near.overlapping({ start: DAY - 1, end: DAY })).toHaveLength(1);
  expect(near.overlapping({ start: DAY, end: 2 * DAY })).toEqual([]);
});
