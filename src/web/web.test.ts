import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { layOutDay } from './calendar/layout.ts';
import { readTimes } from './calendar/useTyped.ts';
import { readLineUp, writeLineUp } from './plan/address.ts';

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
  };

  it('are read freely', () => {
    expect(readTimes(typed, 'Europe/Oslo').times).toEqual({
      startsAt: '2026-11-26T10:45',
      endsAt: '2026-11-26T11:30',
      zone: 'Europe/Oslo',
      allDay: false,
    });
  });

  it('an end before the start is the next day’s', () => {
    expect(readTimes({ ...typed, start: '22h', end: '1am' }, 'UTC').times?.endsAt).toBe(
      '2026-11-27T01:00',
    );
  });

  it('whole days end at the midnight after the last one', () => {
    expect(
      readTimes({ ...typed, allDay: true, lastDate: '2026-11-27' }, 'UTC').times,
    ).toMatchObject({ startsAt: '2026-11-26T00:00', endsAt: '2026-11-28T00:00' });
    expect(readTimes({ ...typed, allDay: true, lastDate: '2026-11-25' }, 'UTC').errors.end).toMatch(
      /not be before/,
    );
  });

  it('say what is wrong with what cannot be read', () => {
    const { errors, times } = readTimes({ ...typed, start: 'soon', date: '' }, 'UTC');
    expect(times).toBeUndefined();
    expect(errors.start).toMatch(/10:45/);
    expect(errors.date).toBeDefined();
  });
});

describe('the address of a plan', () => {
  it('reads back what it writes', () => {
    const lineUp = fc.uniqueArray(
      fc.record({
        id: fc.integer({ min: 1, max: 9999 }),
        role: fc.constantFrom('required' as const, 'optional' as const),
        setAside: fc.boolean(),
      }),
      { selector: (one) => one.id },
    );
    fc.assert(
      fc.property(lineUp, (list) => {
        expect(readLineUp(writeLineUp(list))).toEqual(list);
      }),
    );
  });

  it('leaves out what nobody can be', () => {
    expect(readLineUp('3,3,x,0,-1,4z,5ox,,7').map((one) => one.id)).toEqual([3, 5, 7]);
  });
});
