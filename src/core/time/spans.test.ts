import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { merge, overlaps, type Interval } from './interval.ts';
import { forEachGap, NO_SPANS, spansOf, standing, type Spans } from './spans.ts';

const LIMIT = 60;
const interval = fc
  .tuple(fc.nat(LIMIT), fc.nat(12))
  .map(([start, length]): Interval => ({ start, end: start + length }));
const intervals = fc.array(interval, { maxLength: 8 });
const nonEmpty = interval.filter(({ start, end }) => start < end);

const listOf = (spans: Spans): Interval[] =>
  Array.from({ length: spans.length / 2 }, (_, k) => ({
    start: spans[2 * k]!,
    end: spans[2 * k + 1]!,
  }));
const covers = (list: readonly Interval[], tick: number) =>
  list.some(({ start, end }) => start <= tick && tick < end);

describe('spans', () => {
  it('cover what the intervals cover, disjoint and in order', () => {
    fc.assert(
      fc.property(intervals, (list) => {
        const spans = listOf(spansOf(list));
        for (let tick = 0; tick < LIMIT + 12; tick++)
          expect(covers(spans, tick)).toBe(covers(list, tick));
        spans.forEach(({ start, end }, k) => {
          expect(start).toBeLessThan(end);
          if (k > 0) expect(start).toBeGreaterThanOrEqual(spans[k - 1]!.end);
        });
      }),
    );
  });

  it('tell where an interval stands among them', () => {
    fc.assert(
      fc.property(intervals, nonEmpty, (list, one) => {
        const union = merge(list);
        const found = standing(spansOf(union), one);
        const over = union.filter(({ end }) => end <= one.start);
        const rest = union.filter(({ end }) => end > one.start);
        expect(found).toEqual({
          overlaps: union.some((span) => overlaps(span, one)),
          lastEnd: over.at(-1)?.end ?? -Infinity,
          nextStart: rest[0]?.start ?? Infinity,
        });
      }),
    );
    expect(standing(NO_SPANS, { start: 1, end: 2 }).overlaps).toBe(false);
  });

  it('leave gaps that nothing covers, between everything that does', () => {
    fc.assert(
      fc.property(intervals, intervals, nonEmpty, (first, second, window) => {
        const free: number[] = [];
        forEachGap(spansOf(first), spansOf(second), window, (start, end, lastEnd, nextStart) => {
          expect(start).toBeLessThan(end);
          for (let tick = start; tick < end; tick++) free.push(tick);
          const before = merge(first).filter((span) => span.end <= start);
          expect(lastEnd).toBe(Math.max(-Infinity, ...before.map((span) => span.end)));
          expect(nextStart).toBe(
            Math.min(
              Infinity,
              ...merge(first).flatMap((span) => (span.start >= end ? span.start : [])),
            ),
          );
        });
        const expected: number[] = [];
        for (let tick = window.start; tick < window.end; tick++)
          if (!covers(first, tick) && !covers(second, tick)) expected.push(tick);
        expect(free).toEqual(expected);
      }),
      { numRuns: 300 },
    );
  });
});
