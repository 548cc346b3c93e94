import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MINUTE, overlaps } from '../time/interval.ts';
import { spansOf } from '../time/spans.ts';
import { BlockedCounter, slotGrid, slotStart, SlotSums } from './slots.ts';
import { often } from '../../../tests/support/effort.ts';

const DAY_START = Date.UTC(2026, 10, 24);
const grid = slotGrid({ start: DAY_START, end: DAY_START + 240 * MINUTE }, 15);

const span = fc
  .tuple(fc.integer({ min: -40, max: 260 }), fc.integer({ min: 1, max: 90 }))
  .map(([at, length]) => ({
    start: DAY_START + at * MINUTE,
    end: DAY_START + (at + length) * MINUTE,
  }));
const spans = fc.array(span, { maxLength: 5 });

describe('blocked starts', () => {
  it('are counted as asking every subject about every start counts them, and told apart by tags', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(spans, spans), { maxLength: 4 }),
        fc.integer({ min: 1, max: 100 }),
        (subjects, lengthMinutes) => {
          const counter = new BlockedCounter(grid, lengthMinutes);
          subjects.forEach(([busy, closed], k) =>
            counter.add(spansOf(busy), spansOf(closed), k + 1),
          );
          const counts = counter.counts();
          const tags = counter.tagSums();
          for (let slot = 0; slot < grid.count; slot++) {
            const start = slotStart(grid, slot);
            const meeting = { start, end: start + lengthMinutes * MINUTE };
            const blocked = subjects.flatMap((lists, k) =>
              lists.flat().some((one) => overlaps(one, meeting)) ? [k + 1] : [],
            );
            expect(counts[slot]).toBe(blocked.length);
            expect(tags[slot]).toBe(blocked.reduce((sum, tag) => sum + tag, 0));
          }
        },
      ),
    );
  });
});

describe('sums over slots', () => {
  it('are those of adding every value to every start it holds for', () => {
    const piece = fc.tuple(
      fc.integer({ min: -30, max: 250 }),
      fc.integer({ min: -10, max: 120 }),
      fc.integer({ min: -50, max: 50 }),
      fc.constantFrom(0, 1, -1),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 6 }), (pieces) => {
        const sums = new SlotSums(grid);
        const expected = new Array<number>(grid.count).fill(0);
        for (const [at, length, value, perMinute] of pieces) {
          const from = DAY_START + at * MINUTE;
          const to = from + length * MINUTE;
          sums.add(from, to, value, perMinute);
          for (let slot = 0; slot < grid.count; slot++) {
            const start = slotStart(grid, slot);
            if (start >= from && start <= to)
              expected[slot]! += value + ((start - from) / MINUTE) * perMinute;
          }
        }
        expect([...sums.values()]).toEqual(expected.map((one) => one + 0));
      }),
      { numRuns: often(200) },
    );
  });
});
