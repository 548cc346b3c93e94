import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { slowFind } from '../../../tests/twins/slowFinding.ts';
import { HOUR, MINUTE } from '../time/interval.ts';
import { startOfDay } from '../time/wall.ts';
import { weekOf } from '../time/workingHours.ts';
import { findPlaces, notThen, type FindablePlace, type FindWishes } from './finding.ts';
import { NO_RULES } from './rules.ts';
import { often } from '../../../tests/support/effort.ts';

const NOW = Date.UTC(2026, 9, 20, 9);
const ANYBODY = { teams: [1], has: [] };
/** Days on which clocks change, in one way and the other, and one like any other. */
const DAYS = ['2026-10-25', '2027-03-28', '2026-11-26'];
const ZONES = ['Europe/Oslo', 'Australia/Hobart', 'Asia/Kolkata'];

const PLACE: FindablePlace = {
  id: 1,
  name: 'Desk A1',
  description: '',
  siteId: 1,
  floor: '1',
  capacity: 1,
  features: ['monitor', 'window'],
  units: 1,
  rules: NO_RULES,
  zone: 'Europe/Oslo',
  prepareMinutes: 0,
  clearMinutes: 0,
  isKept: false,
  taken: [],
};
const WISHES: FindWishes = {
  siteId: null,
  floor: null,
  seats: 1,
  features: [],
  text: '',
  time: { date: '2026-11-26', from: 480, to: 1080, minutes: 90 },
  near: [],
};

/** A place with whatever rules, buffers, units and claims around a day. */
const arbitraryPlace = (date: string) =>
  fc
    .record({
      siteId: fc.constantFrom(1, 2),
      floor: fc.constantFrom('1', '2'),
      capacity: fc.constantFrom(1, 4, 8),
      features: fc.subarray(['monitor', 'window', 'quiet']),
      units: fc.integer({ min: 1, max: 3 }),
      isKept: fc.boolean(),
      zone: fc.constantFrom(...ZONES),
      prepareMinutes: fc.constantFrom(0, 10, 30),
      clearMinutes: fc.constantFrom(0, 15),
      rules: fc.record({
        open: fc.option(
          fc.constantFrom(weekOf({ start: 540, end: 720 }), weekOf({ start: 60, end: 300 })),
        ),
        shortestMinutes: fc.option(fc.constantFrom(30, 90)),
        longestMinutes: fc.option(fc.constantFrom(60, 120)),
        stepMinutes: fc.option(fc.constantFrom(15, 30, 60)),
        noticeMinutes: fc.option(fc.constantFrom(60, 60 * 24 * 30)),
        horizonDays: fc.option(fc.constantFrom(5, 200)),
        teams: fc.option(fc.constantFrom([1], [2])),
      }),
      claims: fc.array(
        fc.record({
          at: fc.integer({ min: -8, max: 30 * 4 }),
          quarters: fc.integer({ min: 1, max: 24 }),
          unit: fc.integer({ min: 1, max: 3 }),
        }),
        { maxLength: 6 },
      ),
    })
    .map(({ claims, rules, ...rest }): Omit<FindablePlace, 'id' | 'name'> => {
      const midnight = startOfDay(date, rest.zone);
      return {
        ...rest,
        description: '',
        rules: { ...NO_RULES, ...rules },
        taken: claims
          .filter((one) => one.unit <= rest.units)
          .map(({ at, quarters, unit }) => ({
            unit,
            start: midnight + at * 15 * MINUTE,
            end: midnight + (at + quarters) * 15 * MINUTE,
          })),
      };
    });

describe('places are found', () => {
  it('as a slow reading of every quarter of an hour finds them: rules, buffers, hours, units, clock changes', () => {
    const asked = fc.constantFrom(...DAYS).chain((date) =>
      fc.tuple(
        fc.array(arbitraryPlace(date), { maxLength: 6 }),
        fc.record({
          siteId: fc.option(fc.constantFrom(1, 2)),
          floor: fc.option(fc.constantFrom('1', '2')),
          seats: fc.constantFrom(1, 1, 4),
          features: fc.subarray(['monitor', 'window']),
          text: fc.constantFrom('', '', 'monitor', 'nowhere'),
          from: fc.constantFrom(0, 60, 480, 570, 1320, 1380),
          hours: fc.constantFrom(2, 3, 5),
          minutes: fc.constantFrom(30, 90, 120),
        }),
        fc.constant(date),
      ),
    );
    fc.assert(
      fc.property(asked, ([some, { from, hours, minutes, ...rest }, date]) => {
        const places = some.map((one, k) => ({ ...one, id: k + 1, name: `Place ${k + 1}` }));
        const time = { date, from, to: from + hours * 60, minutes };
        const wishes: FindWishes = { ...rest, near: [], time };
        const { found, excluded } = findPlaces(places, wishes, ANYBODY, NOW);
        const slow = slowFind(places, wishes, ANYBODY, NOW);
        const byId = (all: { id: number; free: number | null }[]) =>
          all.sort((a, b) => a.id - b.id);
        expect(
          byId(found.map((one) => ({ id: one.place.id, free: one.free?.start ?? null }))),
        ).toEqual(byId(slow.found));
        for (const { condition, gives } of excluded) {
          if (condition.kind === 'time') {
            expect(gives).toBe(slow.anyTime);
            continue;
          }
          const fewer = {
            site: { siteId: null },
            floor: { floor: null },
            text: { text: '' },
            seats: { seats: 1 },
            feature: {
              features: wishes.features.filter(
                (one) => condition.kind !== 'feature' || one !== condition.feature,
              ),
            },
          }[condition.kind];
          expect([condition, gives]).toEqual([condition, slow.without(fewer)]);
        }
      }),
      { numRuns: often(60) },
    );
  });

  it('free ones first, the nearest to people of those, then the earliest and the smallest', () => {
    const taken = [{ unit: 1, start: Date.UTC(2026, 10, 26), end: Date.UTC(2026, 10, 27) }];
    const early = [{ unit: 1, start: Date.UTC(2026, 10, 26, 6), end: Date.UTC(2026, 10, 26, 9) }];
    const places = [
      { ...PLACE, id: 1, taken },
      { ...PLACE, id: 2, floor: '2' },
      { ...PLACE, id: 3, floor: '2', taken: early },
      { ...PLACE, id: 4, capacity: 3 },
      { ...PLACE, id: 5, siteId: 2 },
    ];
    const near = [
      { siteId: 1, floor: '2' },
      { siteId: 1, floor: '3' },
    ];
    const { found, excluded } = findPlaces(places, { ...WISHES, near }, ANYBODY, NOW);
    expect(found.map((one) => one.place.id)).toEqual([2, 3, 4, 5, 1]);
    expect(found[1]).toMatchObject({
      near: { onFloor: 1, atSite: 2 },
      free: { start: Date.UTC(2026, 10, 26, 9), end: Date.UTC(2026, 10, 26, 10, 30) },
    });
    expect(excluded).toEqual([{ condition: { kind: 'time' }, gives: 0 }]);
  });

  it('no earlier than now, and say what keeps out all of them', () => {
    const now = Date.UTC(2026, 10, 26, 12, 5);
    const [first] = findPlaces([PLACE], WISHES, ANYBODY, now).found;
    expect(first!.free!.start).toBe(Date.UTC(2026, 10, 26, 12, 15));
    const late = findPlaces([PLACE], WISHES, ANYBODY, now + 6 * HOUR);
    expect(late.found[0]!.free).toBeNull();
    const wishes = { ...WISHES, features: ['monitor', 'quiet'] };
    expect(findPlaces([PLACE], wishes, ANYBODY, NOW)).toEqual({
      found: [],
      excluded: [
        { condition: { kind: 'feature', feature: 'quiet' }, gives: 1 },
        { condition: { kind: 'feature', feature: 'monitor' }, gives: 0 },
        { condition: { kind: 'time' }, gives: 0 },
      ],
      isOver: false,
    });
    expect(late.isOver).toBe(true);
    expect(findPlaces([PLACE], WISHES, ANYBODY, now).isOver).toBe(false);
  });
});

describe('what is not to be had when it is wanted', () => {
  const at = (hour: number) => Date.UTC(2026, 10, 26, 0) + (hour - 1) * HOUR;
  const all = [{ unit: 1, start: at(8), end: at(18) }];
  const wants = (more: Partial<FindWishes['time']> = {}) => ({ ...WISHES.time, ...more });
  const span = (from: number, to: number) => ({ start: at(from), end: at(to) });

  it('is over, taken or against a rule, and says what of that day comes nearest', () => {
    expect(notThen(PLACE, wants(), ANYBODY, at(18))).toEqual({
      why: 'over',
      instead: span(18, 19.5),
    });
    expect(notThen({ ...PLACE, taken: all }, wants(), ANYBODY, NOW)).toEqual({
      why: 'taken',
      instead: span(6.5, 8),
    });
    const short = { ...PLACE, rules: { ...NO_RULES, longestMinutes: 60 } };
    expect(notThen(short, wants({ from: 600, to: 720, minutes: 120 }), ANYBODY, NOW)).toEqual({
      why: [expect.objectContaining({ rule: 'too-long', most: 60 })],
      instead: span(10, 11),
    });
    const opens = weekOf({ start: 540, end: 660 });
    const shut = { ...PLACE, rules: { ...NO_RULES, open: opens } };
    expect(notThen(shut, wants({ from: 720, to: 840, minutes: 60 }), ANYBODY, NOW)).toEqual({
      why: [expect.objectContaining({ rule: 'closed' })],
      instead: span(10, 11),
    });
    const theirs = { ...PLACE, rules: { ...NO_RULES, teams: [2] } };
    expect(notThen(theirs, wants(), ANYBODY, NOW)).toEqual({
      why: [{ rule: 'not-for-you' }],
      instead: null,
    });
  });

  it('is the length that its steps and bounds allow', () => {
    const rules = { ...NO_RULES, stepMinutes: 30, shortestMinutes: 60 };
    const some = { ...PLACE, rules };
    expect(notThen(some, wants({ from: 600, to: 645, minutes: 45 }), ANYBODY, NOW).instead).toEqual(
      span(10, 11),
    );
  });
});
