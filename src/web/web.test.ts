import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { layOutDay } from './grid/layout.ts';
import { readTimes, retyped } from './time/useTyped.ts';

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

describe('times as typed', () => {
  const typed = {
    date: '2026-11-26',
    start: '10:45',
    end: '1130',
    allDay: false,
    lastDate: '2026-11-26',
    zone: 'Europe/Oslo',
    endZone: null,
  };

  it('are read freely', () => {
    expect(readTimes(typed).times).toEqual({
      startsAt: '2026-11-26T10:45',
      endsAt: '2026-11-26T11:30',
      zone: 'Europe/Oslo',
      endZone: null,
      allDay: false,
    });
    const soon = readTimes({ ...typed, start: 'in 20 min', end: 'noon' }, 10 * 60 + 50).times;
    expect(soon).toMatchObject({ startsAt: '2026-11-26T11:10', endsAt: '2026-11-26T12:00' });
  });

  it('keep their length when the start moves, over midnight and over days', () => {
    expect(retyped(typed, { start: '2300' })).toMatchObject({
      end: '23:45',
      lastDate: '2026-11-26',
    });
    expect(retyped(typed, { start: '23:30' })).toMatchObject({
      end: '00:15',
      lastDate: '2026-11-27',
    });
    const trip = { ...typed, lastDate: '2026-11-28' };
    expect(retyped(trip, { date: '2026-12-30' })).toMatchObject({ lastDate: '2027-01-01' });
    expect(retyped(trip, { start: '9' })).toMatchObject({ end: '09:45', lastDate: '2026-11-28' });
    // What is no time yet moves nothing.
    expect(retyped(typed, { start: '1' + ':' })).toMatchObject({ start: '1:' });
  });

  it('end in another zone, where it may be earlier', () => {
    const flight = { ...typed, start: '10:00', end: '08:30', endZone: 'America/Halifax' };
    expect(readTimes(flight).times).toMatchObject({
      endsAt: '2026-11-26T08:30',
      endZone: 'America/Halifax',
    });
  });

  it('an end before the start is the next day’s', () => {
    expect(readTimes({ ...typed, start: '22h', end: '1am' }).times?.endsAt).toBe(
      '2026-11-27T01:00',
    );
  });

  it('whole days end at the midnight after the last one', () => {
    expect(readTimes({ ...typed, allDay: true, lastDate: '2026-11-27' }).times).toMatchObject({
      startsAt: '2026-11-26T00:00',
      endsAt: '2026-11-28T00:00',
    });
    expect(readTimes({ ...typed, allDay: true, lastDate: '2026-11-25' }).errors.end).toMatch(
      /not be before/,
    );
  });

  it('say what is wrong with what cannot be read', () => {
    const { errors, times } = readTimes({ ...typed, start: 'soon', date: '' });
    expect(times).toBeUndefined();
    expect(errors.start).toMatch(/10:45/);
    expect(errors.date).toBeDefined();
  });
});
