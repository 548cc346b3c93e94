import fc from 'fast-check';
import { expect, it } from 'vitest';
import { same } from './same.ts';

/** What two values say when they are written down, their keys in order. */
const written = (value: unknown) =>
  JSON.stringify(value, (_, part: unknown) =>
    part !== null && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  ) ?? 'null';

const values = fc.letrec((tie) => ({
  value: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    fc.constantFrom(null, true, false, 0, 1, '', 'a', '1'),
    fc.array(tie('value'), { maxLength: 3 }),
    fc.dictionary(fc.constantFrom('a', 'b', 'c'), fc.option(tie('value'), { nil: undefined })),
  ),
})).value;

it('is what comparing them written down says, and the same both ways', () => {
  let equal = 0;
  fc.assert(
    fc.property(values, values, (a, b) => {
      expect(same(a, b)).toBe(written(a) === written(b));
      expect(same(b, a)).toBe(same(a, b));
      expect(same(a, structuredClone(a))).toBe(true);
      if (same(a, b)) equal++;
    }),
    { numRuns: 2_000 },
  );
  expect(equal).toBeGreaterThan(20);
});

it('does not look at the order of keys, and looks at that of lists', () => {
  expect(same({ a: 1, b: [1, 2] }, { b: [1, 2], a: 1 })).toBe(true);
  expect(same({ b: [1, 2] }, { b: [2, 1] })).toBe(false);
  expect(same(undefined, null)).toBe(true);
  expect(same({ a: null }, {})).toBe(false);
});
