import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenBySlowRules } from '../../../tests/twins/slowRules.ts';
import { DAY, HOUR, MINUTE, overlaps } from '../time/interval.ts';
import { resolveWallTime } from '../time/wall.ts';
import { weekOf } from '../time/workingHours.ts';
import { brokenInWords, openWords, rulesInWords } from './ruleWords.ts';
import {
  barredTime,
  termsOfRules,
  brokenRules,
  NO_RULES,
  type Booker,
  type PlaceRules,
} from './rules.ts';
import { keepsTerms } from './terms.ts';
import { often } from '../../../tests/support/effort.ts';

const OSLO = 'Europe/Oslo';
const NOW = Date.UTC(2026, 10, 24, 8, 12);
const ANYBODY: Booker = { isSteward: false, teams: [1], has: [] };
const at = (from: string, to: string, zone = OSLO) => ({
  start: resolveWallTime(from, zone).instant,
  end: resolveWallTime(to, zone).instant,
});
const OPEN = weekOf({ start: 480, end: 1080 });
const judge = (rules: Partial<PlaceRules>, span: { start: number; end: number }, by = ANYBODY) =>
  brokenRules({ ...NO_RULES, ...rules }, span, by, { zone: OSLO, now: NOW });

/** What bars every booking of a time, however long. */
const bars = (rule: string) =>
  ['closed', 'too-late', 'too-early', 'not-for-you', 'somebodys'].includes(rule);

describe('the rules of a place', () => {
  it('name what a booking breaks, and nothing else', () => {
    const day = at('2026-11-26T09:00', '2026-11-26T10:00');
    expect(judge({ open: OPEN }, day)).toEqual([]);
    expect(judge({ open: OPEN }, at('2026-11-26T17:30', '2026-11-26T18:30'))).toEqual([
      { rule: 'closed', date: '2026-11-26', hours: [{ start: 480, end: 1080 }] },
    ]);
    // 26 hours in a room that is open from 8 to 18, and a Sunday.
    expect(judge({ open: OPEN }, at('2026-11-26T09:00', '2026-11-27T11:00'))).toMatchObject([
      { rule: 'closed', date: '2026-11-26' },
    ]);
    expect(judge({ open: OPEN }, at('2026-11-29T09:00', '2026-11-29T10:00'))).toEqual([
      { rule: 'closed', date: '2026-11-29', hours: [] },
    ]);
    expect(judge({ shortestMinutes: 90, stepMinutes: 45 }, day)).toEqual([
      { rule: 'too-short', least: 90 },
      { rule: 'off-step', step: 45 },
    ]);
    expect(judge({ longestMinutes: 60, stepMinutes: 30 }, day)).toEqual([]);
    expect(judge({ horizonDays: 2 }, day)).toEqual([]);
    expect(judge({ horizonDays: 1 }, day)).toEqual([
      { rule: 'too-early', days: 1, last: '2026-11-25' },
    ]);
    expect(judge({ noticeMinutes: 49 * 60 }, day)).toEqual([{ rule: 'too-late', notice: 49 * 60 }]);
    expect(judge({ teams: [2, 3] }, day)).toEqual([{ rule: 'not-for-you' }]);
    expect(judge({ teams: [1, 3] }, day)).toEqual([]);
  });

  it('count what somebody has in the same week, from Monday to Sunday', () => {
    const has = [
      at('2026-11-22T22:00', '2026-11-23T01:00'),
      at('2026-11-25T09:00', '2026-11-25T11:00'),
    ];
    const wish = at('2026-11-26T09:00', '2026-11-26T10:30');
    expect(judge({ weeklyMinutes: 270 }, wish, { ...ANYBODY, has })).toEqual([]);
    expect(judge({ weeklyMinutes: 240 }, wish, { ...ANYBODY, has })).toEqual([
      { rule: 'too-much', most: 240, had: 180 },
    ]);
  });

  it('bind no steward', () => {
    const night = at('2026-11-29T02:00', '2026-11-29T03:07');
    const rules = { open: OPEN, stepMinutes: 15, teams: [2], weeklyMinutes: 1 };
    expect(judge(rules, night)).toHaveLength(4);
    expect(judge(rules, night, { ...ANYBODY, isSteward: true })).toEqual([]);
  });

  it('are said in words, before and at a refusal', () => {
    const teamNames = new Map([[2, 'Kelp Forests']]);
    const rules: PlaceRules = {
      open: [...OPEN.slice(0, 5), [{ start: 540, end: 720 }], []],
      shortestMinutes: 30,
      longestMinutes: 240,
      stepMinutes: 15,
      noticeMinutes: 120,
      horizonDays: 90,
      teams: [2],
      weeklyMinutes: 480,
      approval: true,
      graceMinutes: 15,
      hourlyPrice: { hundredths: 45_050, currency: 'NOK' },
    };
    expect(
      rulesInWords(rules, { prepareMinutes: 10, clearMinutes: 0 }, { clock: '24', teamNames }),
    ).toEqual([
      'open Mon–Fri 08:00–18:00, Sat 09:00–12:00',
      'for 30 min to 4 h',
      'in steps of 15 min',
      'booked 2 h ahead at least',
      'booked 90 days ahead at most',
      'for Kelp Forests alone',
      '8 h a week for each at most',
      'kept free 10 min before',
      'a steward agrees first',
      'given to others if nobody checks in within 15 min',
      'NOK 450.50 an hour',
    ]);
    expect(openWords(weekOf({ start: 0, end: 1440 }, [1, 2, 3, 4, 5, 6, 7]), '12')).toBe(
      'Mon–Sun all day',
    );
    const said = judge(rules, at('2027-11-28T23:07', '2027-11-28T23:17')).map((one) =>
      brokenInWords(one, { clock: '24', rules, teamNames }),
    );
    expect(said).toEqual([
      'is closed on Sun 28 Nov',
      'is booked for 30 min at least',
      'is booked in steps of 15 min, counted from midnight',
      'is booked 90 days ahead at most, now through Mon 22 Feb 2027',
      'is for Kelp Forests alone',
    ]);
  });

  it('are those of a list that is gone through minute by minute', () => {
    const shift = fc
      .record({ start: fc.integer({ min: 0, max: 23 }), hours: fc.integer({ min: 1, max: 24 }) })
      .map(({ start, hours }) => ({ start: start * 60, end: (start + hours) * 60 }));
    const maybe = (values: number[]) => fc.option(fc.constantFrom(...values), { nil: null });
    // Around the nights in which clocks change, in zones that change them by an hour and by half of one.
    const zone = fc.constantFrom(OSLO, 'America/Halifax', 'Australia/Lord_Howe', 'Africa/Nairobi');
    const day = fc.constantFrom(
      '2027-03-13',
      '2027-03-27',
      '2027-04-03',
      '2027-10-30',
      '2027-11-06',
    );
    fc.assert(
      fc.property(
        fc.record({
          open: fc.option(
            fc.array(fc.array(shift, { maxLength: 2 }), { minLength: 7, maxLength: 7 }),
            {
              nil: null,
            },
          ),
          shortestMinutes: maybe([30, 60]),
          longestMinutes: maybe([60, 240, 1500]),
          stepMinutes: maybe([15, 20, 60]),
          noticeMinutes: maybe([60, 1440]),
          horizonDays: maybe([0, 1, 30]),
          teams: fc.option(fc.subarray([1, 2, 3]), { nil: null }),
          weeklyMinutes: maybe([60, 300, 600]),
        }),
        fc.option(
          fc.record({
            ownerId: fc.constantFrom(7, 8),
            owner: fc.constant('Jon Skau'),
            freeDays: fc.subarray([
              ...['2027-03-13', '2027-03-14', '2027-03-27', '2027-03-28', '2027-04-03'],
              ...['2027-10-30', '2027-10-31', '2027-11-06', '2027-11-07'],
            ]),
          }),
          { nil: null },
        ),
        zone,
        day,
        fc.integer({ min: 0, max: 2880 }),
        fc.integer({ min: 1, max: 1800 }),
        fc.integer({ min: -2, max: 40 }),
        fc.array(
          fc.tuple(fc.integer({ min: -6000, max: 6000 }), fc.integer({ min: 5, max: 400 })),
          {
            maxLength: 4,
          },
        ),
        fc.subarray([1, 2, 3]),
        (kept, assigned, clock, date, minute, lasts, ahead, others, teams) => {
          const start = resolveWallTime(`${date}T00:00`, clock).instant + minute * MINUTE;
          const span = { start, end: start + lasts * MINUTE };
          const now = start - ahead * HOUR;
          const has = others.map(([from, minutes]) => ({
            start: start + from * MINUTE,
            end: start + (from + minutes) * MINUTE,
          }));
          const booker = { id: 7, isSteward: false, teams, has };
          const rules = { ...kept, ...(assigned && { assigned }) };
          const where = { zone: clock, now };
          const kinds = brokenRules({ ...NO_RULES, ...rules }, span, booker, where).map(
            (one) => one.rule,
          );
          expect(kinds).toEqual(brokenBySlowRules({ ...NO_RULES, ...rules }, span, booker, where));

          const window = { start: start - 3 * DAY, end: start + 4 * DAY };
          const isBarred = (by: Partial<PlaceRules>) =>
            barredTime({ ...NO_RULES, ...by }, window, booker, where).some((one) =>
              overlaps(one, span),
            );
          // A booking may run on past midnight of the last day on which it may begin.
          const at = kinds.includes('too-early') ? rules : { ...rules, horizonDays: null };
          expect(isBarred(at)).toBe(kinds.some(bars));
          if (kinds.some(bars)) expect(isBarred(rules)).toBe(true);
          // What bars no booking of that time asks something of it.
          const terms = termsOfRules({ ...NO_RULES, ...rules }, window, booker, clock);
          expect(keepsTerms(terms, span)).toBe(kinds.every(bars));
        },
      ),
      { numRuns: often(100) },
    );
  });
});
