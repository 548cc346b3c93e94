import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { zones } from '../../../tests/twins/arbitraries.ts';
import { naiveOccurrences } from '../../../tests/twins/naiveRecurrence.ts';
import { addDays, isDate, startOfDay } from '../time/wall.ts';
import { expandSeries, firstOccurrence } from './expand.ts';
import { checkRule, parseRule, plainRule, ruleText, WEEKDAYS, type Rule } from './rule.ts';
import { often } from '../../../tests/support/effort.ts';

const some = <T>(values: readonly T[], maxLength: number) =>
  fc.uniqueArray(fc.constantFrom(...values), { minLength: 1, maxLength });
const sometimes = <T>(list: fc.Arbitrary<T[]>) =>
  fc.oneof({ weight: 2, arbitrary: fc.constant<T[]>([]) }, { weight: 1, arbitrary: list });

const weekday = some(WEEKDAYS, 4).map((days) => days.map((day) => ({ weekday: day, nth: null })));
const nthDay = fc
  .tuple(some(WEEKDAYS, 2), fc.constantFrom(1, 2, 3, 4, 5, -1, -2))
  .map(([days, nth]) => days.map((day) => ({ weekday: day, nth })));

const rules: fc.Arbitrary<Rule> = fc
  .record({
    frequency: fc.constantFrom('DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'),
    interval: fc.constantFrom(1, 1, 1, 2, 3, 5),
    end: fc.oneof(
      fc.constant({}),
      fc.record({ count: fc.integer({ min: 1, max: 60 }) }),
      fc.record({
        until: fc.integer({ min: 0, max: 800 }).map((days) => addDays('2026-01-01', days)),
      }),
    ),
    days: sometimes(weekday),
    nthDays: sometimes(nthDay),
    monthDays: sometimes(some([1, 2, 13, 15, 28, 29, 30, 31, -1, -2], 3)),
    months: sometimes(some([1, 2, 3, 4, 6, 9, 10, 11, 12], 3)),
    positions: sometimes(some([1, 2, -1, -2], 2)),
    weekStart: fc.constantFrom('MO', 'MO', 'SU'),
  })
  .map(({ frequency, interval, end, days, nthDays, monthDays, months, positions, weekStart }) => {
    const monthly = frequency === 'MONTHLY' || frequency === 'YEARLY';
    return {
      ...plainRule(frequency as Rule['frequency']),
      interval,
      ...end,
      byDay: monthly && nthDays.length ? nthDays : days,
      byMonthDay: frequency === 'WEEKLY' ? [] : monthDays,
      byMonth: months,
      bySetPos: monthly && (days.length || monthDays.length) ? positions : [],
      weekStart,
    } as Rule;
  })
  .filter((rule) => {
    try {
      checkRule(rule);
      return true;
    } catch {
      return false;
    }
  });

const starts = fc
  .tuple(
    fc.integer({ min: 0, max: 400 }),
    // Hours at which clocks change here and there, midnight among them, and ordinary ones.
    fc.constantFrom('00:00', '01:30', '02:00', '02:15', '02:30', '09:00', '13:45', '23:30'),
  )
  .map(([days, time]) => `${addDays('2025-12-20', days)}T${time}`);

describe('random rules', () => {
  it('agree with the slow twin, whatever the zone does to its clock', () => {
    let occurrences = 0;
    fc.assert(
      fc.property(rules, starts, zones, (rule, startsAt, zone) => {
        const text = ruleText(rule);
        const last = addDays(startsAt.slice(0, 10), 700);
        const window = {
          start: startOfDay('2025-01-01', 'UTC'),
          end: startOfDay(addDays(last, 1), zone),
        };
        const found = expandSeries({ startsAt, zone, lengthMinutes: 30, rule: text }, window);
        occurrences += found.length;
        expect(found.map(({ recurrenceId, start }) => ({ recurrenceId, start }))).toEqual(
          naiveOccurrences({ startsAt, zone, rule: text }, last),
        );
      }),
      { numRuns: often(2000) },
    );
    expect(occurrences).toBeGreaterThan(often(50_000) / 2);
  }, 120_000);

  it('that number weekdays up to the 53rd, beside plain ones too, name only what is there', () => {
    const far = fc.record({
      frequency: fc.constantFrom('YEARLY' as const, 'YEARLY' as const, 'MONTHLY' as const),
      interval: fc.constantFrom(1, 2, 3),
      byDay: fc.uniqueArray(
        fc.record({
          weekday: fc.constantFrom(...WEEKDAYS),
          nth: fc.constantFrom(53, -53, 53, -53, 1, 5, -1, null),
        }),
        { minLength: 1, maxLength: 3, selector: (day) => `${day.nth}${day.weekday}` },
      ),
      byMonth: fc.constantFrom<number[]>([], [], [2], [1, 12]),
      bySetPos: fc.constantFrom<number[]>([], [], [-1], [1, 2]),
    });
    let named = 0;
    fc.assert(
      fc.property(far, starts, (part, startsAt) => {
        const rule = ruleText({ ...plainRule(part.frequency), ...part });
        const window = { start: Date.UTC(2025, 0, 1), end: Date.UTC(2034, 0, 1) };
        const found = expandSeries({ startsAt, zone: 'UTC', lengthMinutes: 30, rule }, window);
        named += found.length;
        expect(found.map(({ recurrenceId, start }) => ({ recurrenceId, start }))).toEqual(
          naiveOccurrences({ startsAt, zone: 'UTC', rule }, '2033-12-31'),
        );
      }),
      { numRuns: often(300) },
    );
    expect(named).toBeGreaterThan(often(1000) / 2);
  }, 120_000);

  it('keep their meaning as text', () => {
    fc.assert(
      fc.property(rules, (rule) => {
        expect(parseRule(ruleText(rule))).toEqual(rule);
      }),
    );
  });

  it('begin with the first date they name', () => {
    fc.assert(
      fc.property(rules, starts, (rule, startsAt) => {
        const endless = { ...rule, count: null, until: null };
        let first;
        try {
          first = firstOccurrence(endless, startsAt);
        } catch {
          return;
        }
        expect(isDate(first.slice(0, 10))).toBe(true);
        const naive = naiveOccurrences(
          { startsAt, zone: 'UTC', rule: ruleText(endless) },
          first.slice(0, 10),
        );
        expect(naive.map((one) => one.recurrenceId)).toEqual([first]);
      }),
      { numRuns: often(60) },
    );
  });
});
