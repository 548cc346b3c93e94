import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { layOutDay } from './grid/layout.ts';

describe('items side by side', () => {
  it('never overlap in their column, and use no more columns than overlap at once', () => {
    const items = fc.array(
      fc
        .tuple(fc.nat(90), fc.integer({ min: 1, max: 30 }))
        .map(([start, length]) => ({ start, end: start + length })),
      { maxLength: 15 },
    );
    fc.assert(
      fc.property(items, (list) => {
        const placed = layOutDay(list, { start: 0, end: 200 });
        expect(placed).toHaveLength(list.length);
        for (const a of placed) {
          expect(a.column).toBeLessThan(a.columns);
          for (const b of placed) {
            if (a === b || a.column !== b.column) continue;
            expect(a.item.start < b.item.end && b.item.start < a.item.end).toBe(false);
          }
          // Drawn over the columns beside it, it still covers nothing of the same time.
          expect(a.span).toBeGreaterThanOrEqual(1);
          expect(a.column + a.span).toBeLessThanOrEqual(a.columns);
          for (const b of placed) {
            const together = a.item.start < b.item.end && b.item.start < a.item.end;
            if (a !== b && together && b.column > a.column)
              expect(b.column).toBeGreaterThanOrEqual(a.column + a.span);
          }
        }
        const most = Math.max(
          0,
          ...list.map(
            (one) =>
              list.filter((other) => other.start <= one.start && one.start < other.end).length,
          ),
        );
        expect(Math.max(0, ...placed.map((one) => one.columns))).toBe(most);
      }),
    );
  });
});
