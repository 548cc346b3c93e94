import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayOrderOf } from './dayOrder.ts';
import { readDay, readDayAs } from './typedDay.ts';
import { readTimes, retyped, typedFrom } from './typedTimes.ts';
import { wallTimeAt } from './wall.ts';

const minutesBetween = ({ startsAt, endsAt }: { startsAt: string; endsAt: string }) =>
  (Date.parse(`${endsAt}Z`) - Date.parse(`${startsAt}Z`)) / 60_000;

describe('times as typed', () => {
  const typed = {
    date: '2026-11-26',
    start: '10:45',
    end: '1130',
    allDay: false,
    lastDate: '2026-11-26',
    zone: 'Europe/Oslo',
    endZone: null,
    lengthMinutes: 45,
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
    const late = retyped(typed, { start: '23:30' });
    expect(late.end).toBe('00:15');
    expect(readTimes(late).times?.endsAt).toBe('2026-11-27T00:15');
    // And back again over midnight.
    expect(readTimes(retyped(late, { start: '9' })).times?.endsAt).toBe('2026-11-26T09:45');
    const trip = retyped(typed, { lastDate: '2026-11-28' });
    expect(retyped(trip, { date: '2026-12-30' })).toMatchObject({ lastDate: '2027-01-01' });
    expect(retyped(trip, { start: '9' })).toMatchObject({ end: '09:45', lastDate: '2026-11-28' });
    // What is no time yet moves nothing.
    expect(retyped(typed, { start: '1' + ':' })).toMatchObject({ start: '1:' });
  });

  it('keep their length through every half-typed start, key by key', () => {
    for (const text of [
      '10.45',
      '11:30 pm',
      '1:15pm',
      '0930',
      '9',
      'noon',
      '23h30',
      '12:0',
      '7.5x',
    ]) {
      let now = typedFrom(Date.UTC(2026, 10, 26, 8), Date.UTC(2026, 10, 26, 8, 50), 'Europe/Oslo');
      now = retyped(now, { start: '' });
      for (let k = 1; k <= text.length; k++) now = retyped(now, { start: text.slice(0, k) });
      expect(now.lengthMinutes, text).toBe(50);
      const { times } = readTimes(now);
      if (times) expect(minutesBetween(times), text).toBe(50);
    }
  });

  it('take the length of a typed end, and keep it while the end is half-typed', () => {
    let now = typedFrom(Date.UTC(2026, 10, 26, 8), Date.UTC(2026, 10, 26, 9), 'Europe/Oslo');
    for (const end of ['', '1', '11', '11:', '11:3', '11:30']) now = retyped(now, { end });
    expect(now).toMatchObject({ lengthMinutes: 150, lastDate: '2026-11-26' });
    expect(readTimes(retyped(now, { start: '13' })).times?.endsAt).toBe('2026-11-26T15:30');
  });

  it('say that an end before the start is one, unless it is a night', () => {
    const morning = { ...typed, start: '10:45', end: '10:15' };
    expect(readTimes(morning)).toMatchObject({
      errors: { end: expect.stringContaining('not after the start') as string },
    });
    expect(readTimes({ ...morning, end: '10:45' }).times).toBeUndefined();
    expect(readTimes({ ...morning, lastDate: '2026-11-27' }).times?.endsAt).toBe(
      '2026-11-27T10:15',
    );
    expect(retyped(typed, { end: '10:15' }).lengthMinutes).toBe(45);
  });

  it('of what is there read back as they were, whatever their length', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 364 * 96 }),
        fc.integer({ min: 1, max: 4 * 96 }),
        fc.constantFrom('Europe/Oslo', 'America/Halifax', 'Asia/Kolkata'),
        fc.constantFrom(null, 'Australia/Hobart', 'Atlantic/Reykjavik'),
        (at, quarters, zone, endZone) => {
          const start = Date.UTC(2027, 0, 1) + at * 900_000;
          const end = start + quarters * 900_000;
          const typed = typedFrom(start, end, zone, false, endZone);
          const { times } = readTimes(typed);
          expect(times).toMatchObject({
            startsAt: wallTimeAt(start, zone),
            endsAt: wallTimeAt(end, endZone ?? zone),
          });
          // Typing what already stands there changes nothing.
          expect(readTimes(retyped(typed, { start: typed.start })).times).toEqual(times);
          expect(readTimes(retyped(typed, { end: typed.end })).times).toEqual(times);
          expect(readTimes(retyped(typed, { date: typed.date })).times).toEqual(times);
        },
      ),
    );
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

describe('a day as it is typed', () => {
  const TUESDAY = '2026-11-24';

  it.each([
    ['last friday', '2026-11-20'],
    ['yesterday', '2026-11-23'],
    ['3 days ago', '2026-11-21'],
    ['friday', '2026-11-27'],
    ['Tuesday', '2026-11-24'],
    ['20 Nov', '2027-11-20'],
    ['26.11.', '2026-11-26'],
    ['26. 11. 2027', '2027-11-26'],
    ['1.12', '2026-12-01'],
    ['in two weeks', '2026-12-08'],
    ['the day after tomorrow', '2026-11-26'],
    // Ten is a day of December here, and no year.
    ['Dec 10', '2026-12-10'],
    ['10 dec', '2026-12-10'],
    ['December 10th, 2027', '2027-12-10'],
    ["3rd of March '28", '2028-03-03'],
    ['Wed 25 Nov', '2026-11-25'],
    ['Thu 26 Nov 2026', '2026-11-26'],
    ['29 Feb', '2028-02-29'],
    ['2026-12-3', '2026-12-03'],
    ['torsdag', '2026-11-26'],
    ['søndag', '2026-11-29'],
    ['Mittwoch', '2026-11-25'],
    ['vendredi', '2026-11-27'],
    ['środa', '2026-11-25'],
    ['segunda-feira', '2026-11-30'],
    ['i morgen', '2026-11-25'],
    ['amanhã', '2026-11-25'],
    // There is no such day, and none is put in its place.
    ['31 Feb', null],
    ['31.2.', null],
    ['2026-13-01', null],
    ['30/30', null],
    ['29 Feb 2027', null],
    ['soonish', null],
    ['Dec', null],
    ['Dec 2027', null],
    ['at 10', null],
    ['tomorrow at 10', null],
    ['26 Nov perhaps', null],
    ['', null],
  ])('“%s” is %s', (text, date) => {
    expect(readDay(text, TUESDAY)).toBe(date);
  });

  it.each([
    ['12/10', 'day-first', '2027-10-12', '2026-12-10'],
    ['12/10', 'month-first', '2026-12-10', '2027-10-12'],
    ['12/10/2026', 'month-first', '2026-12-10', '2026-10-12'],
    ['26/11', 'month-first', '2026-11-26', null],
    ['12/12', 'day-first', '2026-12-12', null],
    ['next friday', 'day-first', '2026-12-04', '2026-11-27'],
    ['next monday', 'day-first', '2026-11-30', null],
    // The 24th is a Tuesday: either was a slip.
    ['Wed 24 Nov', 'day-first', '2026-11-24', '2026-11-25'],
  ] as const)('“%s”, %s, is %s, or perhaps %s', (text, order, date, other) => {
    expect(readDayAs(text, TUESDAY, order)).toEqual({ date, other });
  });

  it('is written with the day or the month first where the reader does so', () => {
    expect(['en-GB', 'nb', 'de', 'pt-PT', 'en-US'].map(dayOrderOf)).toEqual([
      'day-first',
      'day-first',
      'day-first',
      'day-first',
      'month-first',
    ]);
  });
});
