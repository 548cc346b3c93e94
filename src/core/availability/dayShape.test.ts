import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HOUR, MINUTE, overlaps, type Interval } from '../time/interval.ts';
import { collisionsOf, freePieces, longestOf } from './dayShape.ts';

const MORNING = { start: 8 * HOUR, end: 12 * HOUR };
const AFTERNOON = { start: 13 * HOUR, end: 16 * HOUR };

const spans = fc.array(
  fc
    .tuple(fc.integer({ min: 6 * 12, max: 18 * 12 }), fc.integer({ min: 1, max: 30 }))
    .map(([from, length]) => ({ start: from * 5 * MINUTE, end: (from + length) * 5 * MINUTE })),
  { maxLength: 8 },
);

describe('what is left of a day', () => {
  it('is every minute of the hours that nothing takes, in pieces that are long enough', () => {
    fc.assert(
      fc.property(spans, fc.constantFrom(0, 15 * MINUTE, 60 * MINUTE), (taken, least) => {
        const pieces = freePieces(taken, [MORNING, AFTERNOON], least);
        const isFree = (at: number) =>
          [MORNING, AFTERNOON].some((hours) => hours.start <= at && at < hours.end) &&
          !taken.some((one) => one.start <= at && at < one.end);
        const inPiece = (at: number) => pieces.some((one) => one.start <= at && at < one.end);
        for (let at = 6 * HOUR; at < 20 * HOUR; at += 5 * MINUTE) {
          if (inPiece(at)) expect(isFree(at)).toBe(true);
          if (least === 0) expect(inPiece(at)).toBe(isFree(at));
        }
        for (const piece of pieces) {
          expect(piece.end - piece.start).toBeGreaterThanOrEqual(Math.max(least, 1));
          // Nothing could be added at either end.
          expect(isFree(piece.start - 5 * MINUTE) || isFree(piece.end)).toBe(false);
        }
      }),
    );
  });

  it('is longest where it is longest, and first of those that are as long', () => {
    expect(longestOf([])).toBe(null);
    expect(longestOf([MORNING, AFTERNOON])).toBe(MORNING);
    const later = { start: 14 * HOUR, end: 18 * HOUR };
    expect(longestOf([AFTERNOON, later, MORNING])).toBe(later);
  });
});

describe('things at the same time', () => {
  it('are named to each other, and those that only touch are not', () => {
    const [a, b, c] = [
      { start: 9 * HOUR, end: 10 * HOUR },
      { start: 9.5 * HOUR, end: 11 * HOUR },
      { start: 11 * HOUR, end: 12 * HOUR },
    ] as [Interval, Interval, Interval];
    const found = collisionsOf([a, b, c]);
    expect([...found.keys()]).toEqual([a, b]);
    expect(found.get(a)).toEqual([b]);
    fc.assert(
      fc.property(spans, (list) => {
        const all = collisionsOf(list);
        for (const [one, others] of all) {
          for (const other of others) {
            expect(overlaps(one, other)).toBe(true);
            expect(all.get(other)).toContain(one);
          }
        }
      }),
    );
  });
});
