import { Temporal } from 'temporal-polyfill';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { windows, zones } from '../../../tests/twins/arbitraries.ts';
import { resolveSpan } from './eventTimes.ts';
import {
  formatHours,
  formatLength,
  formatNear,
  formatSpan,
  formatTime,
  untilWords,
} from './format.ts';
import { MINUTE, gaps, merge, sharedWith } from './interval.ts';
import { formatTimeOfDay, parseLength, parseTimeOfDay } from './typedTime.ts';
import { isReadableZone, isWallTime, resolveWallTime, startOfWeek, wallTimeAt } from './wall.ts';
import { weekOf, workingIntervals } from './workingHours.ts';
import { clockChanges, toInstant, toLocal, zoneTable } from './zoneTable.ts';

describe('wall time', () => {
  it('agrees with the zone table on every quarter hour around clock changes', () => {
    fc.assert(
      fc.property(windows(3), zones, fc.integer({ min: 0, max: 287 }), (window, zone, quarter) => {
        const table = zoneTable(zone, window);
        const instant = window.start + quarter * 15 * MINUTE;
        const local = toLocal(table, instant);
        expect(wallTimeAt(instant, zone)).toBe(new Date(local).toISOString().slice(0, 16));
        const wall = new Date(local).toISOString().slice(0, 16);
        expect(toInstant(table, local)).toBe(resolveWallTime(wall, zone).instant);
      }),
      { numRuns: 400 },
    );
  });

  it('reads skipped and repeated times as RFC 5545 section 3.3.5 does', () => {
    expect(resolveWallTime('2027-03-28T02:30', 'Europe/Oslo')).toEqual({
      instant: Date.UTC(2027, 2, 28, 1, 30),
      wall: '2027-03-28T03:30',
      kind: 'skipped',
    });
    expect(resolveWallTime('2026-11-01T01:30', 'America/Halifax').instant).toBe(
      Date.UTC(2026, 10, 1, 4, 30),
    );
    expect(resolveWallTime('2026-11-01T01:30', 'America/Halifax', 'later').instant).toBe(
      Date.UTC(2026, 10, 1, 5, 30),
    );
    // Lord Howe moves its clock by half an hour.
    expect(resolveWallTime('2026-10-04T02:15', 'Australia/Lord_Howe').wall).toBe(
      '2026-10-04T02:45',
    );
  });

  it('knows days and zones that do not exist', () => {
    expect(
      ['2026-02-29T10:00', '2026-06-31T10:00', '2026-11-24T25:00', 'soon'].filter(isWallTime),
    ).toEqual([]);
    expect(isWallTime('2028-02-29T10:00')).toBe(true);
    expect(
      ['Europe/Atlantis', '+02:00', '', 'Europe/Oslo; drop table'].filter(isReadableZone),
    ).toEqual([]);
    expect(isReadableZone('America/Argentina/Buenos_Aires')).toBe(true);
  });

  it('names the clock changes inside a window', () => {
    const window = { start: Date.UTC(2026, 9, 1), end: Date.UTC(2026, 11, 1) };
    expect(clockChanges(zoneTable('Europe/Oslo', window), window)).toEqual([
      { instant: Date.UTC(2026, 9, 25, 1), minutes: -60 },
    ]);
    expect(clockChanges(zoneTable('Africa/Nairobi', window), window)).toEqual([]);
  });

  it('finds the first day of a week', () => {
    expect(startOfWeek('2026-11-29')).toBe('2026-11-23');
    expect(startOfWeek('2026-11-29', 7)).toBe('2026-11-29');
  });
});

describe('spans of events', () => {
  it('keeps a repeated end after a repeated start', () => {
    const span = resolveSpan({
      startsAt: '2026-10-25T02:45',
      endsAt: '2026-10-25T02:15',
      zone: 'Europe/Oslo',
      fold: 'earlier',
    });
    expect(span.lengthMinutes).toBe(30);
    expect(span.notes).toHaveLength(2);
  });

  it('is an hour shorter over a skipped hour', () => {
    const span = resolveSpan({
      startsAt: '2027-03-28T01:00',
      endsAt: '2027-03-28T04:00',
      zone: 'Europe/Oslo',
      fold: 'earlier',
    });
    expect(span).toMatchObject({ lengthMinutes: 120, notes: [] });
  });
});

describe('working hours', () => {
  it('follow the zone’s own clock across a change', () => {
    const window = { start: Date.UTC(2026, 9, 23), end: Date.UTC(2026, 9, 28) };
    const hours = workingIntervals(
      weekOf({ start: 540, end: 1020 }),
      zoneTable('Europe/Oslo', window),
      window,
    );
    expect(hours.map(({ start }) => new Date(start).toISOString().slice(0, 16))).toEqual([
      '2026-10-23T07:00',
      '2026-10-26T08:00',
      '2026-10-27T08:00',
    ]);
  });

  it('agree with the calendar day by day', () => {
    fc.assert(
      fc.property(
        windows(4),
        zones,
        fc.integer({ min: 0, max: 1400 }),
        fc.integer({ min: 5, max: 900 }),
        (window, zone, start, length) => {
          const shift = { start, end: start + length };
          const found = workingIntervals(
            weekOf(shift, [1, 2, 3, 4, 5, 6, 7]),
            zoneTable(zone, window),
            window,
          );
          const first = Temporal.Instant.fromEpochMilliseconds(window.start)
            .toZonedDateTimeISO(zone)
            .toPlainDate();
          const expected = merge(
            [-2, -1, 0, 1, 2, 3, 4, 5].map((days) => {
              const midnight = first.add({ days }).toPlainDateTime();
              const instant = (minutes: number) =>
                midnight.add({ minutes }).toZonedDateTime(zone).epochMilliseconds;
              return { start: instant(shift.start), end: instant(shift.end) };
            }),
          );
          expect(sharedWith(found, window)).toBe(sharedWith(expected, window));
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('typed times', () => {
  it.each([
    ['10:45', 645],
    ['1045', 645],
    ['10.45', 645],
    ['10:45am', 645],
    ['10:45 pm', 1365],
    ['22h', 1320],
    ['22h30', 1350],
    ['9', 540],
    ['9am', 540],
    ['12am', 0],
    ['12pm', 720],
    ['noon', 720],
    ['0930', 570],
    ['930', 570],
  ])('reads %s', (text, minutes) => expect(parseTimeOfDay(text)).toBe(minutes));

  it.each(['', '25:00', '10:75', 'later', '13pm', '0am', '1:2', '-3'])('refuses “%s”', (text) =>
    expect(parseTimeOfDay(text)).toBeNull(),
  );

  it.each([
    ['45', 45],
    ['45m', 45],
    ['1h', 60],
    ['1h30', 90],
    ['1:30', 90],
    ['1.5h', 90],
    ['1,5 h', 90],
  ])('reads a length of %s', (text, minutes) => expect(parseLength(text)).toBe(minutes));

  it('reads back what it writes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1439 }),
        (m) => parseTimeOfDay(formatTimeOfDay(m)) === m,
      ),
    );
  });
});

describe('words for times', () => {
  it('names both days of a span only when they differ', () => {
    const start = Date.UTC(2026, 10, 26, 11);
    expect(formatSpan({ start, end: start + 45 * MINUTE }, 'Europe/Oslo')).toBe(
      'Thu 26 Nov 12:00–12:45',
    );
    expect(formatSpan({ start, end: start + 12 * 60 * MINUTE }, 'Europe/Oslo')).toBe(
      'Thu 26 Nov 12:00–00:00',
    );
    expect(formatSpan({ start, end: start + 13 * 60 * MINUTE }, 'Europe/Oslo')).toBe(
      'Thu 26 Nov 12:00 – Fri 27 Nov 01:00',
    );
  });

  it('says lengths as people do', () => {
    expect([45, 60, 90, 1440, 2880].map((m) => formatLength(m * MINUTE))).toEqual([
      '45 min',
      '1 h',
      '1 h 30 min',
      '1 day',
      '2 days',
    ]);
  });
});

describe('intervals', () => {
  const lists = fc.array(
    fc.tuple(fc.nat(100), fc.nat(30)).map(([start, length]) => ({ start, end: start + length })),
    { maxLength: 12 },
  );

  it('merging and the gaps it leaves cover a window exactly once', () => {
    fc.assert(
      fc.property(lists, (list) => {
        const window = { start: 10, end: 90 };
        const union = merge(list);
        for (let tick = 10; tick < 90; tick++) {
          const covered = list.some((one) => one.start <= tick && tick < one.end);
          expect(union.filter((one) => one.start <= tick && tick < one.end)).toHaveLength(
            covered ? 1 : 0,
          );
          expect(gaps(list, window).some((one) => one.start <= tick && tick < one.end)).toBe(
            !covered,
          );
        }
      }),
    );
  });
});

describe('a clock of twelve hours', () => {
  it('says twelve for noon and midnight, not nought', () => {
    const at = (hour: number) => formatTime(Date.UTC(2026, 10, 24, hour, 5), 'UTC', '12');
    expect([0, 1, 11, 12, 13, 23].map(at)).toEqual([
      '12:05 am',
      '1:05 am',
      '11:05 am',
      '12:05 pm',
      '1:05 pm',
      '11:05 pm',
    ]);
  });
});

describe('a moment beside another', () => {
  const now = Date.UTC(2026, 10, 24, 21, 0);
  it.each([
    [Date.UTC(2026, 10, 24, 22, 30), 'Europe/Oslo', '24', '23:30'],
    [Date.UTC(2026, 10, 24, 23, 0), 'Europe/Oslo', '24', 'Wed 25 Nov 00:00'],
    // The same instant is still the same day in Halifax.
    [Date.UTC(2026, 10, 24, 23, 0), 'America/Halifax', '12', '7:00 pm'],
    [Date.UTC(2027, 10, 24, 22, 30), 'Europe/Oslo', '24', 'Wed 24 Nov 2027 23:30'],
  ] as const)('%s in %s', (instant, zone, clock, words) =>
    expect(formatNear(instant, now, { zone, clock })).toBe(words),
  );
});

describe('the end of something, beside a moment', () => {
  const reader = { zone: 'Europe/Oslo', clock: '24' } as const;
  const at = (day: number, hour: number, minute = 0) => Date.UTC(2026, 10, day, hour - 1, minute);
  it.each([
    [at(24, 15), 'until 15:00'],
    [at(27, 10), 'until Fri 27 Nov 10:00'],
    // Somebody who is away to the end of Friday is not back in the course of it.
    [at(28, 0), 'through Fri 27 Nov'],
    [at(25, 0), 'until midnight'],
  ] as const)('%s is said “%s”', (end, words) =>
    expect(untilWords(end, at(24, 9), reader)).toBe(words),
  );
});

describe('from a moment to another, beside a day', () => {
  const reader = { zone: 'Europe/Oslo', clock: '24' } as const;
  const noon = Date.UTC(2026, 10, 24, 11);
  it.each([
    [[24, 13, 24, 15], '14:00–16:00'],
    [[23, 17, 24, 8.5], 'Mon 23 Nov 18:00–09:30'],
    [[24, 17, 25, 9], '18:00 – Wed 25 Nov 10:00'],
  ] as const)('of %j is said as %s', ([fromDay, from, toDay, to], words) => {
    const span = {
      start: Date.UTC(2026, 10, fromDay, from),
      end: Date.UTC(2026, 10, toDay, 0) + to * 3_600_000,
    };
    expect(formatHours(span, reader.zone, reader.clock, noon)).toBe(words);
  });
});
