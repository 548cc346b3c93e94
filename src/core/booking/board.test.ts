import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HOUR, MINUTE } from '../time/interval.ts';
import { weekOf } from '../time/workingHours.ts';
import { collisionWith, freePlaces, type BookablePlace } from './collisions.ts';
import { NO_RULES } from './rules.ts';
import { excluders, fitting } from './wishes.ts';

const ROOMS = [
  { name: 'Gannet', description: '', capacity: 12, features: ['video', 'whiteboard'], floor: '2' },
  { name: 'Skua', description: 'By the stairs', capacity: 8, features: ['video'], floor: '2' },
  { name: 'Puffin', description: '', capacity: 4, features: [], floor: '1' },
  {
    name: 'Guillemot',
    description: 'Fjörd view',
    capacity: 10,
    features: ['whiteboard'],
    floor: '',
  },
];

describe('what is wanted of a place', () => {
  it('is met by those that meet every condition; the others say which they do not', () => {
    const { fit, others } = fitting(ROOMS, { seats: 6, features: ['video'], text: '' });
    expect(fit.map((one) => one.name)).toEqual(['Gannet', 'Skua']);
    expect(others.map(({ place, unmet }) => [place.name, unmet.length])).toEqual([
      ['Puffin', 2],
      ['Guillemot', 1],
    ]);
    const found = fitting(ROOMS, { seats: 1, features: [], text: 'FJORD view' });
    expect(found.fit.map((one) => one.name)).toEqual(['Guillemot']);
    const upstairs = { seats: 10, features: [], text: '', floor: '2' };
    expect(fitting(ROOMS, upstairs).fit.map((one) => one.name)).toEqual(['Gannet']);
    expect(excluders(ROOMS, upstairs)).toEqual([
      { condition: { kind: 'seats', seats: 10 }, gives: 1 },
      { condition: { kind: 'floor', floor: '2' }, gives: 1 },
    ]);
  });

  it('that nothing meets says what dropping each condition would give', () => {
    const wishes = { seats: 9, features: ['video', 'whiteboard'], text: 'stairs' };
    expect(fitting(ROOMS, wishes).fit).toEqual([]);
    expect(excluders(ROOMS, wishes)).toEqual([
      { condition: { kind: 'text' }, gives: 1 },
      { condition: { kind: 'seats', seats: 9 }, gives: 0 },
      { condition: { kind: 'feature', feature: 'video' }, gives: 0 },
      { condition: { kind: 'feature', feature: 'whiteboard' }, gives: 0 },
    ]);
  });
});

const NINE = Date.UTC(2026, 10, 26, 8);
const place = (more: Partial<BookablePlace> = {}): BookablePlace => ({
  id: 1,
  units: 1,
  zone: 'Europe/Oslo',
  prepareMinutes: 10,
  clearMinutes: 5,
  rules: NO_RULES,
  ...more,
});
const span = (from: number, to: number) => ({ start: NINE + from * HOUR, end: NINE + to * HOUR });
const NOBODY = { isSteward: false, now: NINE - 24 * HOUR };

describe('what stands in the way of a booking', () => {
  it('is whoever has the place, what is kept free around both counted', () => {
    const had = { ...span(1, 2), unit: 1, resourceId: 1 };
    expect(collisionWith(place(), span(0, 1), [had], NOBODY)).toEqual({ kind: 'taken', by: [had] });
    const after = { start: had.end + 15 * MINUTE, end: had.end + HOUR };
    expect(collisionWith(place(), after, [had], NOBODY)).toBeNull();
    expect(
      collisionWith(place(), { ...after, start: after.start - MINUTE }, [had], NOBODY),
    ).toEqual({ kind: 'taken', by: [had] });
    expect(collisionWith(place({ units: 2 }), span(0, 1), [had], NOBODY)).toBeNull();
    expect(collisionWith(place({ id: 2 }), span(0, 1), [had], NOBODY)).toBeNull();
  });

  it('is a rule, for whoever is bound by it', () => {
    const shut = place({ rules: { ...NO_RULES, open: weekOf({ start: 480, end: 600 }) } });
    expect(collisionWith(shut, span(0, 2), [], NOBODY)).toMatchObject({ kind: 'rules' });
    expect(collisionWith(shut, span(0, 2), [], { ...NOBODY, isSteward: true })).toBeNull();
  });

  it('is counted for each quarter of an hour as asking for each place by itself would', () => {
    const booking = fc.record({
      resourceId: fc.integer({ min: 1, max: 3 }),
      unit: fc.integer({ min: 1, max: 2 }),
      from: fc.integer({ min: -4, max: 44 }),
      length: fc.integer({ min: 1, max: 12 }),
    });
    const places = [
      place({ prepareMinutes: 0, clearMinutes: 0 }),
      place({ id: 2, units: 2, prepareMinutes: 15, clearMinutes: 30 }),
      place({ id: 3, rules: { ...NO_RULES, open: weekOf({ start: 600, end: 840 }) } }),
    ];
    const bare = (one: BookablePlace) => ({ ...one, prepareMinutes: 0, clearMinutes: 0 });
    fc.assert(
      fc.property(fc.array(booking, { maxLength: 12 }), (list) => {
        const quarter = 15 * MINUTE;
        const bookings = list.map(({ resourceId, unit, from, length }) => ({
          resourceId,
          unit,
          start: NINE + from * quarter,
          end: NINE + (from + length) * quarter,
        }));
        const window = span(0, 10);
        const slow = Array.from({ length: 40 }, (_, k) => {
          const part = { start: NINE + k * quarter, end: NINE + (k + 1) * quarter };
          return places.filter((one) => {
            const widened = bookings.map((b) => ({
              ...b,
              start: b.start - one.prepareMinutes * MINUTE,
              end: b.end + one.clearMinutes * MINUTE,
            }));
            return collisionWith(bare(one), part, widened, NOBODY) === null;
          }).length;
        });
        expect(freePlaces(places, bookings, window, 15)).toEqual(slow);
      }),
      { numRuns: 100 },
    );
  });
});
