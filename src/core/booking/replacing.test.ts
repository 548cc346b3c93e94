import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bestBySlowReplacing, type Score } from '../../../tests/twins/slowReplacing.ts';
import { HOUR, MINUTE } from '../time/interval.ts';
import { weekOf } from '../time/workingHours.ts';
import { replace, type AffectedBooking, type Alternative, type Replacement } from './replacing.ts';
import { NO_RULES } from './rules.ts';
import { often } from '../../../tests/support/effort.ts';

const DAY = Date.UTC(2026, 10, 26);
const at = (from: number, to: number) => ({ start: DAY + from * HOUR, end: DAY + to * HOUR });
const HOME = { id: 1, siteId: 1, floor: '1', capacity: 10, features: ['video', 'screen'] };
const refuge = (id: number, more: Partial<Alternative> = {}): Alternative => ({
  ...HOME,
  id,
  prepareMinutes: 0,
  clearMinutes: 0,
  units: 1,
  rules: NO_RULES,
  zone: 'UTC',
  taken: [],
  ...more,
});
const booking = (
  id: string,
  from: number,
  to: number,
  more: Partial<AffectedBooking> = {},
): AffectedBooking => ({ id, span: at(from, to), people: 4, teams: [], shiftMinutes: 0, ...more });
const whereOf = ({ moves }: Replacement) => moves.map((one) => [one.id, one.placeId]);

describe('bookings of a place that goes out of use', () => {
  it('go where they fit: enough seats, their site, open, and nobody else there', () => {
    const places = [
      refuge(2, { capacity: 3 }),
      refuge(3, { siteId: 2 }),
      refuge(4, { taken: [{ unit: 1, ...at(9, 11) }] }),
      refuge(5, { rules: { ...NO_RULES, open: weekOf({ start: 12 * 60, end: 18 * 60 }) } }),
      refuge(6, { rules: { ...NO_RULES, teams: [7] } }),
    ];
    expect(replace([booking('a', 10, 11)], HOME, places)).toEqual({
      moves: [],
      unplaced: ['a'],
      isBest: true,
    });
    expect(whereOf(replace([booking('a', 11, 12)], HOME, places))).toEqual([['a', 4]]);
    expect(whereOf(replace([booking('a', 12, 13, { people: 4 })], HOME, places.slice(4)))).toEqual(
      [],
    );
    const member = booking('a', 10, 11, { teams: [7] });
    expect(whereOf(replace([member], HOME, places))).toEqual([['a', 6]]);
  });

  it('rather keep their time than their features, and these than their floor', () => {
    const near = refuge(2, { features: ['screen'] });
    const far = refuge(3, { floor: '3' });
    const fit = refuge(4, { taken: [{ unit: 1, ...at(9, 12) }] });
    const a = booking('a', 11, 12, { shiftMinutes: 60 });
    expect(replace([a], HOME, [near, far, fit]).moves).toMatchObject([
      { placeId: 3, span: at(11, 12), lacks: [], walks: true },
    ]);
    expect(replace([a], HOME, [near, fit]).moves).toMatchObject([
      { placeId: 2, span: at(11, 12), lacks: ['video'], walks: false },
    ]);
    // Nothing is left at its time: an hour later, since its holder allows it.
    expect(replace([a], HOME, [fit]).moves).toMatchObject([{ placeId: 4, span: at(12, 13) }]);
    expect(replace([{ ...a, shiftMinutes: 0 }], HOME, [fit]).unplaced).toEqual(['a']);
  });

  it('are placed together: one gives way where another has no other way', () => {
    const small = refuge(2, { capacity: 4, prepareMinutes: 15, clearMinutes: 15 });
    const large = refuge(3, { capacity: 20, floor: '2' });
    // Both would rather be near, but what is kept free around them leaves room for one.
    const [a, b] = [booking('a', 9, 10), booking('b', 10, 11)];
    expect(whereOf(replace([a, b], HOME, [small, large]))).toHaveLength(2);
    const many = booking('b', 10, 11, { people: 12 });
    expect(whereOf(replace([a, many], HOME, [small, large]))).toEqual([
      ['a', 2],
      ['b', 3],
    ]);
  });

  it('have as good a place as when every way is tried', () => {
    const quarter = fc.integer({ min: 32, max: 44 });
    const span = fc
      .tuple(quarter, fc.integer({ min: 1, max: 6 }))
      .map(([from, length]) => at(from / 4, (from + length) / 4));
    const place = fc.record({
      floor: fc.constantFrom('1', '2'),
      capacity: fc.constantFrom(2, 4, 8),
      features: fc.subarray(['video', 'screen', 'stage']),
      prepareMinutes: fc.constantFrom(0, 15, 30),
      clearMinutes: fc.constantFrom(0, 15),
      units: fc.constantFrom(1, 1, 2),
      siteId: fc.constantFrom(1, 1, 1, 2),
      taken: fc.array(
        fc.tuple(span, fc.constantFrom(1, 2)).map(([one, unit]) => ({ ...one, unit })),
        { maxLength: 2 },
      ),
    });
    const wish = fc.record({
      span,
      people: fc.constantFrom(1, 3, 6),
      shiftMinutes: fc.constantFrom(0, 0, 15, 30),
    });
    fc.assert(
      fc.property(
        fc.array(wish, { minLength: 1, maxLength: 3 }),
        fc.array(place, { minLength: 1, maxLength: 3 }),
        (wishes, places) => {
          const bookings = wishes.map((one, k) => ({ ...one, id: `${k}`, teams: [] }));
          const refuges = places.map((one, k) => refuge(k + 2, one));
          const found = replace(bookings, HOME, refuges);
          expect(found.isBest).toBe(true);
          expect(scoreOf(found, bookings)).toEqual(bestBySlowReplacing(bookings, HOME, refuges));
          expectNoCollision(found, refuges);
        },
      ),
      { numRuns: often(150) },
    );
  });
});

const scoreOf = ({ moves, unplaced }: Replacement, bookings: readonly AffectedBooking[]): Score => [
  unplaced.length,
  moves.filter((one) => one.span.start !== bookings.find(({ id }) => id === one.id)!.span.start)
    .length,
  moves.reduce((sum, one) => sum + one.lacks.length, 0),
  moves.filter((one) => one.walks).length,
];

function expectNoCollision({ moves }: Replacement, refuges: readonly Alternative[]) {
  for (const one of moves) {
    const { prepareMinutes, clearMinutes } = refuges.find(({ id }) => id === one.placeId)!;
    for (const other of moves) {
      if (other === one || other.placeId !== one.placeId || other.unit !== one.unit) continue;
      const kept = (prepareMinutes + clearMinutes) * MINUTE;
      const apart =
        one.span.end + kept <= other.span.start || other.span.end + kept <= one.span.start;
      expect(apart).toBe(true);
    }
  }
}
