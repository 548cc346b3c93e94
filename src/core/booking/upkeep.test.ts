import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HOUR, MINUTE, overlaps } from '../time/interval.ts';
import { weekOf } from '../time/workingHours.ts';
import { claimedTime } from './booking.ts';
import { NO_RULES } from './rules.ts';
import { reassignUnits, brokenByBooking, tooClose } from './upkeep.ts';

const DAY = Date.UTC(2026, 10, 26);
const at = (from: number, to: number) => ({ start: DAY + from * HOUR, end: DAY + to * HOUR });

describe('a place that is changed', () => {
  it('names what of its bookings stands against its rules, but for when they were made', () => {
    const rules = {
      ...NO_RULES,
      open: weekOf({ start: 600, end: 1080 }),
      noticeMinutes: 60,
      horizonDays: 0,
      weeklyMinutes: 15,
      teams: [1],
    };
    const names = (from: number, to: number, teams: number[]) =>
      brokenByBooking(rules, at(from, to), { teams }, 'UTC').map((one) => one.rule);
    expect(names(10, 11, [1])).toEqual([]);
    expect(names(9, 11, [2])).toEqual(['closed', 'not-for-you']);
  });

  it('finds bookings that a longer time to prepare or clear brings too close', () => {
    const standing = [
      { id: 1, unit: 1, ...at(9, 10) },
      { id: 2, unit: 1, ...at(10.5, 11) },
      { id: 3, unit: 2, ...at(11, 12) },
      { id: 4, unit: 1, ...at(11.25, 12) },
    ];
    const ids = (prepareMinutes: number, clearMinutes: number) =>
      tooClose(standing, { prepareMinutes, clearMinutes }).map((one) => one.id);
    expect(ids(0, 15)).toEqual([]);
    expect(ids(15, 15)).toEqual([4]);
    expect(ids(20, 15)).toEqual([2, 4]);
  });

  it('with fewer units has everybody on one of them, or says for whom none is left', () => {
    const claim = fc
      .tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 1, max: 8 }))
      .map(([from, length]) => ({ start: from * MINUTE, end: (from + length) * MINUTE }));
    fc.assert(
      fc.property(
        fc.array(claim, { maxLength: 12 }),
        fc.integer({ min: 1, max: 3 }),
        (spans, units) => {
          // As they would have been booked one after another.
          const claims: { id: number; unit: number; start: number; end: number }[] = [];
          spans.forEach((span, id) => {
            for (let unit = 1; unit <= 4; unit++) {
              if (claims.some((one) => one.unit === unit && overlaps(one, span))) continue;
              claims.push({ id, unit, ...span });
              return;
            }
          });
          const { moved, stuck } = reassignUnits(claims, units);
          const after = claims
            .filter((one) => !stuck.includes(one))
            .map((one) => ({
              ...one,
              unit: moved.find(({ id }) => id === one.id)?.unit ?? one.unit,
            }));
          for (const one of after) {
            expect(one.unit).toBeLessThanOrEqual(units);
            for (const other of after)
              if (other.id < one.id && other.unit === one.unit)
                expect(overlaps(claimedTime(one, BARE), other)).toBe(false);
          }
          // Nobody whose unit stays is touched, and nobody is stuck while a unit is free.
          expect(moved.every(({ id }) => claims.find((one) => one.id === id)!.unit > units)).toBe(
            true,
          );
          for (const one of stuck) {
            const inUse = after.filter((other) => overlaps(other, one)).map((other) => other.unit);
            expect(new Set(inUse).size).toBe(units);
          }
        },
      ),
    );
  });
});

const BARE = { prepareMinutes: 0, clearMinutes: 0 };
