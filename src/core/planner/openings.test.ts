import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lineUps, windows, zones } from '../../../tests/twins/arbitraries.ts';
import { naivelyPossible, naiveStarts } from '../../../tests/twins/naiveOpenings.ts';
import { MINUTE } from '../time/interval.ts';
import { weekOf } from '../time/workingHours.ts';
import { concessions } from './blockers.ts';
import { fitOf } from './fit.ts';
import type { LineUpMember, Wishes } from './lineUp.ts';
import { countOpenings, openings } from './openings.ts';
import { ridge } from './ridge.ts';
import { openingReasons } from './words.ts';

const DAY_START = Date.UTC(2026, 10, 24);
const at = (hour: number, minute = 0) => DAY_START + (hour * 60 + minute) * MINUTE;

const member = (changes: Partial<LineUpMember>): LineUpMember => ({
  id: 1,
  name: 'Ines Aldabe',
  kind: 'person',
  role: 'required',
  setAside: false,
  zone: 'UTC',
  hours: weekOf({ start: 480, end: 960 }),
  busy: [],
  knowledge: 'known',
  ...changes,
});

const wishes = (changes: Partial<Wishes> = {}): Wishes => ({
  window: { start: DAY_START, end: at(24) },
  notBefore: DAY_START,
  lengthMinutes: 60,
  stepMinutes: 15,
  rule: 'required',
  stretchMinutes: 0,
  tentativeIsFree: false,
  zone: 'UTC',
  limit: 8,
  ...changes,
});

const asked = fc.record({
  lengthMinutes: fc.integer({ min: 1, max: 30 }).map((n) => n * 5),
  rule: fc.constantFrom('required' as const, 'everyone' as const),
  stretchMinutes: fc.constantFrom(0, 30, 60, 120),
  tentativeIsFree: fc.boolean(),
  later: fc.integer({ min: 0, max: 40 }),
  zone: zones,
});

const situation = windows(2).chain((window) =>
  fc.record({ window: fc.constant(window), members: lineUps(window), asked }),
);

type Situation = typeof situation extends fc.Arbitrary<infer T> ? T : never;

const wishesOf = ({ window, asked: a }: Situation): Wishes => ({
  ...a,
  window,
  notBefore: window.start + a.later * 15 * MINUTE,
  stepMinutes: 15,
  limit: 500,
});

describe('openings against the naive twin', () => {
  it('finds exactly the starts that a scan of everything finds', () => {
    fc.assert(
      fc.property(situation, (one) => {
        const w = wishesOf(one);
        const expected = naiveStarts(one.members, w);
        expect(countOpenings(one.members, w)).toBe(expected.length);
        for (const opening of openings(one.members, w).best) {
          expect(expected).toContain(opening.start);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('names as missing exactly the optional people who cannot come', () => {
    fc.assert(
      fc.property(situation, (one) => {
        const w = wishesOf(one);
        for (const opening of openings(one.members, w).best.slice(0, 3)) {
          const missing = one.members
            .filter((m) => m.kind === 'person' && !m.setAside && !naivelyPossible(m, opening, w))
            .map((m) => m.id);
          expect(opening.missing).toEqual(missing);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('the ridge counts whoever the scan finds free', () => {
    fc.assert(
      fc.property(situation, (one) => {
        const w = wishesOf(one);
        const counted = ridge(one.members, w);
        const people = one.members.filter((m) => m.kind === 'person' && !m.setAside);
        for (let slot = 0; slot < counted.grid.count; slot += 7) {
          const start = one.window.start + slot * 15 * MINUTE;
          const moment = { start, end: start + 15 * MINUTE };
          const free = people.filter((m) =>
            naivelyPossible(m, moment, { ...w, stretchMinutes: 0 }),
          );
          expect(counted.people[slot]).toBe(free.length);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('a concession gains what asking for it gains', () => {
    fc.assert(
      fc.property(situation, (one) => {
        const w = wishesOf(one);
        const now = naiveStarts(one.members, w).length;
        for (const { kind, memberId, minutes, gains } of concessions(one.members, w)) {
          const changed = {
            ...w,
            ...(kind === 'shorten' && { lengthMinutes: minutes! }),
            ...(kind === 'stretch' && { stretchMinutes: minutes! }),
            ...(kind === 'tentative' && { tentativeIsFree: true }),
          };
          const others = one.members.map((m) => (m.id === memberId ? { ...m, setAside: true } : m));
          expect(naiveStarts(others, changed).length - now).toBe(gains);
        }
      }),
      { numRuns: 15 },
    );
  }, 60_000);
});

describe('openings', () => {
  it('prefers a start without anyone outside their hours or at midday', () => {
    const [best] = openings([member({})], wishes({ stretchMinutes: 60 })).best;
    expect(best).toMatchObject({ start: at(8), missing: [], outside: [], midday: [] });
  });

  it('goes without an optional person only when it must', () => {
    const optional = member({
      id: 2,
      name: 'Robine Thys',
      role: 'optional',
      busy: [{ start: at(8), end: at(15), occupancy: 'busy' }],
    });
    const result = openings([member({}), optional], wishes());
    expect(result.best[0]).toMatchObject({ start: at(15), missing: [] });
    expect(openings([member({}), optional], wishes({ rule: 'everyone' })).count).toBe(1);
  });

  it('never takes no information for free time', () => {
    const silent = member({ id: 2, knowledge: 'none', hours: null });
    expect(openings([member({}), silent], wishes()).count).toBe(0);
    expect(ridge([silent], wishes()).people.every((n) => n === 0)).toBe(true);
    expect(fitOf([silent], { start: at(9), end: at(10) })).toEqual([{ id: 2, state: 'unknown' }]);
  });

  it('answers an empty line-up, a meeting longer than the window and a window in the past', () => {
    expect(openings([], wishes())).toEqual({ best: [], count: 0 });
    expect(openings([member({})], wishes({ lengthMinutes: 2000 })).count).toBe(0);
    expect(openings([member({})], wishes({ notBefore: at(48) })).count).toBe(0);
  });

  it('finds the night of somebody who works at night', () => {
    const night = member({ hours: weekOf({ start: 1320, end: 1800 }) });
    const result = openings([night], wishes());
    expect(result.best.map((one) => one.start)).toContain(at(0));
    expect(result.best.every((one) => one.start < at(6) || one.start >= at(22))).toBe(true);
  });

  it('returns the same best ones however the line-up is ordered', () => {
    const others = [
      member({}),
      member({ id: 2, zone: 'Europe/Oslo' }),
      member({ id: 3, zone: 'Asia/Kolkata' }),
    ];
    const starts = (list: LineUpMember[]) =>
      openings(list, wishes({ stretchMinutes: 120 })).best.map((one) => one.start);
    expect(starts(others)).toEqual(starts([...others].reverse()));
  });
});

describe('reasons', () => {
  const words = (members: LineUpMember[], w: Wishes) =>
    openingReasons(openings(members, w).best[0]!, members).map((reason) => reason.text);

  it('say who is free, and at what hour for whom', () => {
    const mika = member({
      id: 2,
      name: 'Mika Sandoval',
      zone: 'America/Halifax',
      hours: weekOf({ start: 720, end: 960 }),
    });
    const room = member({ id: 3, name: 'Gannet', kind: 'resource', hours: null });
    const w = wishes({ stretchMinutes: 60, window: { start: at(14), end: at(16) } });
    expect(words([member({}), mika, room], w)).toEqual([
      'all 2 free',
      'Gannet free',
      '11:00 for Mika',
    ]);
  });

  it('say who is missing', () => {
    const away = member({
      id: 2,
      name: 'Robine Thys',
      role: 'optional',
      busy: [{ start: at(0), end: at(24), occupancy: 'away' }],
    });
    expect(words([member({}), away], wishes())).toEqual(['1 of 2 free', 'without Robine']);
  });
});

describe('how a chosen time fits', () => {
  it('tells the gravest thing about each', () => {
    const span = { start: at(15, 30), end: at(16, 30) };
    const members = [
      member({ id: 1, hours: weekOf({ start: 480, end: 1080 }) }),
      member({ id: 2 }),
      member({ id: 3, busy: [{ start: at(15), end: at(16), occupancy: 'tentative' }] }),
      member({
        id: 4,
        busy: [
          { start: at(15), end: at(16), occupancy: 'away' },
          { start: at(16), end: at(17), occupancy: 'busy' },
        ],
      }),
      member({ id: 5, busy: [{ start: at(16, 30), end: at(17), occupancy: 'busy' }], hours: null }),
      member({ id: 6, setAside: true }),
    ];
    expect(fitOf(members, span).map(({ id, state }) => [id, state])).toEqual([
      [1, 'free'],
      [2, 'outside'],
      [3, 'tentative'],
      [4, 'away'],
      [5, 'free'],
    ]);
  });
});
