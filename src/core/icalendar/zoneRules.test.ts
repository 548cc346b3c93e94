import fc from 'fast-check';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { DAY } from '../time/interval.ts';
import { offsetAt, zoneTable } from '../time/zoneTable.ts';
import { timezoneComponent } from './timezone.ts';
import { explainedZone, MOST_OBSERVANCES } from './zoneRules.ts';

const START = Date.UTC(2026, 10, 26, 11);
const YEARS = 12;
const window = { start: START, end: START + YEARS * 366 * DAY };

const zoneOf = (...observances: string[][]) =>
  new ICAL.Component(
    ICAL.parse(
      [
        'BEGIN:VTIMEZONE',
        'TZID:Own',
        ...observances.flatMap((lines) => ['BEGIN:STANDARD', ...lines, 'END:STANDARD']),
        'END:VTIMEZONE',
      ].join('\r\n'),
    ) as unknown[],
  );
const observance = (from: string, to: string, begin: string, ...more: string[]) => [
  `DTSTART:${begin}`,
  `TZOFFSETFROM:${from}`,
  `TZOFFSETTO:${to}`,
  ...more,
];
const changesOf = (component: ICAL.Component, start: string, end: string) =>
  explainedZone(component, { start: Date.parse(start), end: Date.parse(end) })
    .starts.slice(1)
    .map((at) => new Date(at).toISOString().slice(0, 16));

describe('the clock that a VTIMEZONE explains', () => {
  it.each([
    'Europe/Oslo',
    'America/St_Johns',
    'America/Santiago',
    'Africa/Casablanca',
    'Africa/Cairo',
    'Asia/Kolkata',
    'Australia/Lord_Howe',
    'Pacific/Chatham',
    'UTC',
  ])('is that of %s, where Marmot itself explains it', (zone) => {
    const read = explainedZone(timezoneComponent(zone, START, null), window);
    const known = zoneTable(zone, window);
    for (let at = window.start; at < window.end; at += 5 * DAY + 7 * 3_600_000)
      expect([at, offsetAt(read, at)]).toEqual([at, offsetAt(known, at)]);
    const inside = known.starts.slice(1).filter((at) => at >= window.start && at < window.end);
    for (const at of inside)
      expect([offsetAt(read, at - 1), offsetAt(read, at)]).toEqual([
        offsetAt(known, at - 1),
        offsetAt(known, at),
      ]);
  });

  it('agrees with a reader that expands rules from their first year on', () => {
    const offsets = ['+0100', '+0200', '-0330', '+0545'];
    const days = fc.oneof(
      fc.record({
        nth: fc.constantFrom(-1, 1, 2, 3, 4),
        weekday: fc.constantFrom('SU', 'MO', 'FR'),
      }),
      fc.constantFrom('BYMONTHDAY=8,9,10,11,12,13,14;BYDAY=SU', 'BYMONTHDAY=15', 'BYMONTHDAY=-1'),
    );
    const yearly = fc.record({
      month: fc.integer({ min: 1, max: 12 }),
      days,
      hour: fc.integer({ min: 0, max: 23 }),
    });
    const two = (n: number) => String(n).padStart(2, '0');
    fc.assert(
      fc.property(
        fc
          .tuple(yearly, yearly)
          .filter(([a, b]) => Math.abs(a.month - b.month) > 1 && Math.abs(a.month - b.month) < 11),
        fc.constantFrom(...offsets),
        fc.constantFrom(...offsets),
        ([first, second], one, other) => {
          const text = ({ month, days: by, hour }: typeof first, from: string, to: string) =>
            observance(
              from,
              to,
              `2019${two(month)}01T${two(hour)}0000`,
              `RRULE:FREQ=YEARLY;BYMONTH=${month};${typeof by === 'string' ? by : `BYDAY=${by.nth}${by.weekday}`}`,
            );
          const component = zoneOf(text(first, one, other), text(second, other, one));
          const span = { start: Date.UTC(2022, 0, 5), end: Date.UTC(2024, 11, 25) };
          const read = explainedZone(component, span);
          const expanded = new ICAL.Timezone(component);
          for (let at = span.start; at < span.end; at += 11 * DAY) {
            const offset = offsetAt(read, at);
            const local = ICAL.Time.fromJSDate(new Date(at + offset), true);
            const there = ICAL.Time.fromData({ ...local.toJSON(), isDate: false }, expanded);
            // Near a change the two name the hours that it skips or repeats in their own ways.
            const near = read.starts.some((change) => Math.abs(change - at) < DAY);
            if (!near) expect(expanded.utcOffset(there) * 1000).toBe(offset);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('ends where its rule does, and changes where that is said by name', () => {
    const until = zoneOf(
      observance(
        '+0200',
        '+0100',
        '20071028T030000',
        'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU;UNTIL=20091231T000000Z',
      ),
      observance(
        '+0100',
        '+0200',
        '20070325T020000',
        'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU;COUNT=3',
      ),
    );
    // Of each way the last change before, which is in force when the window begins.
    expect(changesOf(until, '2008-01-01T00:00Z', '2012-01-01T00:00Z')).toEqual([
      '2007-03-25T01:00',
      '2007-10-28T01:00',
      '2008-03-30T01:00',
      '2008-10-26T01:00',
      '2009-03-29T01:00',
      '2009-10-25T01:00',
    ]);
    // Long after it has ended it stays at what it was last.
    expect(offsetAt(explainedZone(until, window), START)).toBe(3_600_000);
    const named = zoneOf(
      observance('+0100', '+0200', '20260601T000000', 'RDATE:20280601T000000'),
      observance('+0200', '+0100', '20260901T000000'),
    );
    expect(changesOf(named, '2026-01-01T00:00Z', '2030-01-01T00:00Z')).toEqual([
      '2026-05-31T23:00',
      '2026-08-31T22:00',
      '2028-05-31T23:00',
    ]);
  });

  it('is not read where it changes by anything but years, or by more than clocks do', () => {
    const ruled = (rule: string) =>
      zoneOf(observance('+0100', '+0200', '19700101T000000', `RRULE:${rule}`));
    const reasonOf = (component: ICAL.Component, asked = window) => {
      try {
        explainedZone(component, asked);
        return 'it is read';
      } catch (error) {
        return (error as Error).message;
      }
    };
    for (const frequency of ['SECONDLY', 'MINUTELY', 'HOURLY', 'DAILY', 'WEEKLY', 'MONTHLY'])
      expect(reasonOf(ruled(`FREQ=${frequency}`))).toContain(
        'only yearly rules by months and days',
      );
    expect(reasonOf(ruled('FREQ=YEARLY;BYHOUR=1,2,3'))).toContain('only yearly rules');
    expect(reasonOf(ruled('FREQ=YEARLY;BYDAY=-1SU'))).toContain('names no month');
    expect(reasonOf(ruled('FREQ=YEARLY;BYMONTHDAY=1,2,3'))).toContain('more than 12 times a year');
    expect(
      reasonOf(
        zoneOf(
          ...Array.from({ length: MOST_OBSERVANCES + 1 }, () =>
            observance('+0100', '+0200', '19700101T000000'),
          ),
        ),
      ),
    ).toContain('changes in more than');
    const often = Array.from({ length: 300 }, (_, k) =>
      observance(
        '+0100',
        k % 2 ? '+0300' : '+0200',
        `19700101T00${String(k % 60).padStart(2, '0')}00`,
        'RRULE:FREQ=YEARLY',
      ),
    );
    expect(reasonOf(zoneOf(...often))).toContain('changes more than 2000 times');
    expect(reasonOf(zoneOf(['DTSTART:19700101T000000', 'TZOFFSETTO:+0200']))).toContain(
      'TZOFFSETFROM is no offset',
    );
    expect(reasonOf(zoneOf())).toContain('says no offset');
  });
});
