import fc from 'fast-check';
import { expect, it } from 'vitest';
import { laneWidth, ridgeSteps } from './LayerLanes.tsx';

const day = { start: 0, end: 40 };
const list = fc.array(
  fc
    .tuple(fc.integer({ min: -5, max: 42 }), fc.integer({ min: 1, max: 12 }))
    .map(([start, length]) => ({ start, end: start + length }))
    .filter((one) => one.start < day.end && one.end > day.start),
  { maxLength: 6 },
);

it('of many layers the ridge is how many are taken at each moment, each counted once', () => {
  fc.assert(
    fc.property(fc.array(list, { maxLength: 6 }), (lists) => {
      const steps = ridgeSteps(lists, day);
      for (let at = day.start; at < day.end; at++) {
        const taken = lists.filter((one) => one.some(({ start, end }) => start <= at && at < end));
        const [step, ...others] = steps.filter(({ start, end }) => start <= at && at < end);
        expect(others).toEqual([]);
        expect(step?.count ?? 0).toBe(taken.length);
      }
    }),
  );
});

it('lanes take the less of a day the narrower it is, and nothing where there are none', () => {
  expect(laneWidth(0, 240)).toBe(0);
  for (const count of [1, 2, 3, 20]) {
    const [wide, narrow, least] = [240, 150, 60].map((px) => laneWidth(count, px)) as [
      number,
      number,
      number,
    ];
    expect(wide).toBeGreaterThan(narrow);
    expect(narrow).toBeGreaterThan(least);
    expect(least).toBeLessThan(60 / 2);
  }
});
