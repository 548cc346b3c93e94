import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  naiveBlockers,
  naiveBroken,
  naiveOutside,
  naivelyPossible,
  naivelyPressed,
  naiveStarts,
} from '../../../tests/twins/naiveOpenings.ts';
import { at, member, questions, wishes } from '../../../tests/twins/planning.ts';
import { slotGrid, slotStart } from '../availability/slots.ts';
import { MINUTE } from '../time/interval.ts';
import { weekOf } from '../time/workingHours.ts';
import type { BlockerQuestion } from './blockers.ts';
import type { LineUpMember } from './lineUp.ts';
import { countOpenings, openings } from './openings.ts';
import { ridge } from './ridge.ts';
import { WEIGHTS } from './weights.ts';
import { often } from '../../../tests/support/effort.ts';

const found = ({ members, wishes: w, surroundings }: BlockerQuestion) =>
  openings(members, w, surroundings);
const scanned = ({ members, wishes: w, surroundings }: BlockerQuestion) =>
  naiveStarts(members, w, surroundings.rooms);

describe('openings against the naive twin', () => {
  it('finds exactly the starts that a scan of everything finds, rooms included', () => {
    fc.assert(
      fc.property(questions(), (one) => {
        const expected = scanned(one);
        expect(countOpenings(one.members, one.wishes, one.surroundings)).toBe(expected.length);
        for (const opening of found(one).best) expect(expected).toContain(opening.start);
      }),
      { numRuns: often(80) },
    );
  }, 60_000);

  it('ranks every start by the points that its own facts add up to', () => {
    fc.assert(
      fc.property(questions(3), fc.boolean(), (one, leastBad) => {
        const w = { ...one.wishes, leastBad };
        const grid = slotGrid(w.window, w.stepMinutes);
        const scores = new Map<number, number>();
        for (let slot = 0; slot < grid.count; slot += 3) {
          const [alone] = openings(one.members, w, one.surroundings, (k) => k === slot).best;
          if (alone) scores.set(slotStart(grid, slot), alone.score);
        }
        const some = openings(one.members, w, one.surroundings, (slot) => slot % 3 === 0).best;
        const best = [...scores.values()].sort((a, b) => a - b)[0];
        expect(some[0]?.score).toEqual(best === undefined ? undefined : expect.closeTo(best, 6));
        for (const opening of some) {
          expect(opening.score).toBeCloseTo(scores.get(opening.start)!, 6);
          const sum = Object.values(opening.points).reduce(
            (total, part: number) => total + part,
            0,
          );
          expect(sum).toBeCloseTo(opening.score, 6);
        }
        some.forEach((opening, k) =>
          expect(opening.score).toBeGreaterThanOrEqual((some[k - 1]?.score ?? 0) - 1e-6),
        );
      }),
      { numRuns: often(25) },
    );
  }, 60_000);

  it('tells of each opening what a scan of everybody’s day tells', () => {
    fc.assert(
      fc.property(questions(3), (one) => {
        const w = one.wishes;
        for (const opening of found(one).best.slice(0, 4)) {
          const people = one.members.filter((m) => m.kind === 'person' && !m.setAside);
          const coming = people.filter((m) => naivelyPossible(m, opening, w));
          const ids = (list: LineUpMember[]) => list.map((m) => m.id);
          expect(opening.missing).toEqual(ids(people.filter((m) => !coming.includes(m))));
          expect(opening.outside.map(({ id, minutes }) => [id, minutes])).toEqual(
            coming.flatMap((m) => {
              const minutes = naiveOutside(m, opening);
              return minutes > 0 ? [[m.id, minutes]] : [];
            }),
          );
          expect(opening.backToBack).toEqual(
            ids(coming.filter((m) => naivelyPressed(m, opening, w))),
          );
          expect(opening.broken).toEqual(
            coming.flatMap((m) => {
              const minutes = m.hours ? naiveBroken(m, opening, w) : 0;
              return minutes > 0 ? [{ id: m.id, minutes }] : [];
            }),
          );
          for (const { room, siteId, people: count } of opening.rooms) {
            const taken = one.surroundings.rooms.find((other) => other.id === room!.id)!;
            expect(taken.siteId).toBe(siteId);
            expect(taken.seats).toBeGreaterThanOrEqual(count);
            expect(taken.busy.some((s) => s.start < opening.end && opening.start < s.end)).toBe(
              false,
            );
          }
        }
      }),
      { numRuns: often(60) },
    );
  }, 60_000);

  it('counts on the ridge whoever the scan finds free, and never time of which nothing is known', () => {
    fc.assert(
      fc.property(questions(), (one) => {
        const { members, wishes: w, surroundings } = one;
        const counted = ridge(members, w, surroundings);
        const people = members.filter((m) => m.kind === 'person' && !m.setAside);
        const places = { ...w, lengthMinutes: 15, rule: 'everyone' as const };
        // What is asked of bookings is asked of no quarter of an hour.
        const unasked = <T extends object>(list: readonly T[]) =>
          list.map((listed) => ({ ...listed, terms: null }));
        for (let slot = 0; slot < counted.grid.count; slot += 7) {
          const start = w.window.start + slot * 15 * MINUTE;
          const moment = { start, end: start + 15 * MINUTE };
          const plain = { ...w, stretchMinutes: 0, stretches: {}, unknown: 'busy' as const };
          const free = people.filter((m) => naivelyPossible(m, moment, plain));
          expect(counted.people[slot]).toBe(free.length);
          const blocked = naiveBlockers(
            unasked(members),
            moment,
            { ...places, unknown: 'busy' },
            unasked(surroundings.rooms),
          );
          const inTheWay = blocked.filter(
            (who) =>
              typeof who === 'string' || members.find((m) => m.id === who)!.kind === 'resource',
          );
          expect(counted.places[slot]).toBe(counted.totals.places - inTheWay.length);
        }
      }),
      { numRuns: often(50) },
    );
  }, 60_000);
});

describe('openings', () => {
  it('prefers a start without anyone outside their hours or at midday', () => {
    const [best] = openings([member()], wishes({ stretchMinutes: 60 })).best;
    expect(best).toMatchObject({ start: at(8), missing: [], outside: [], midday: [] });
  });

  it('goes without an optional person only when it must', () => {
    const optional = member({
      id: 2,
      name: 'Robine Thys',
      role: 'optional',
      busy: [{ start: at(8), end: at(15), occupancy: 'busy' }],
    });
    const result = openings([member(), optional], wishes());
    expect(result.best[0]).toMatchObject({ start: at(15), missing: [] });
    expect(openings([member(), optional], wishes({ rule: 'everyone' })).count).toBe(1);
  });

  it('never takes no information for free time, and says so where it is ignored', () => {
    const silent = member({ id: 2, knowledge: 'none', hours: null });
    expect(openings([member(), silent], wishes()).count).toBe(0);
    expect(ridge([silent], wishes()).people.every((n) => n === 0)).toBe(true);
    const [best] = openings([member(), silent], wishes({ unknown: 'ignored' })).best;
    expect(best).toMatchObject({ start: at(8), doubtful: [2], missing: [] });
  });

  it('leaves out days off, which no stretch widens', () => {
    const off = member({ holidays: [{ date: '2026-11-24', name: 'Day of the Tern' }] });
    expect(openings([off], wishes({ stretchMinutes: 120 })).count).toBe(0);
    const next = { start: at(0), end: at(48) };
    expect(openings([off], wishes({ window: next })).best[0]?.start).toBe(at(24 + 8));
  });

  it('asks one zone an hour earlier without asking the others', () => {
    const halifax = member({
      id: 2,
      zone: 'America/Halifax',
      hours: weekOf({ start: 540, end: 1020 }),
    });
    const early = { stretches: { 'America/Halifax': { early: 60, late: 0 } } };
    const bergen = member({ hours: weekOf({ start: 480, end: 780 }) });
    expect(openings([bergen, halifax], wishes()).count).toBe(0);
    const result = openings([bergen, halifax], wishes(early));
    expect(result.best.map((one) => one.start)).toEqual([at(12)]);
    expect(result.best[0]!.outside).toEqual([{ id: 2, minutes: 60, side: 'early', turns: 0 }]);
  });

  it('gives the awkward hour to those who had it less', () => {
    const hobart = member({
      id: 2,
      zone: 'Australia/Hobart',
      hours: weekOf({ start: 540, end: 1020 }),
    });
    const bergen = member({ id: 3, zone: 'Europe/Oslo', hours: weekOf({ start: 480, end: 990 }) });
    // 07:00 in Bergen is 17:00 in Hobart: an hour early for one, an hour late for the other.
    const w = wishes({ stretchMinutes: 90, window: { start: at(5), end: at(9) } });
    const lastTimes = [1, 8, 15].map((days) => ({
      start: at(7) - days * 86_400_000,
      end: at(8) - days * 86_400_000,
      people: [2, 3],
    }));
    const lineUp = [hobart, bergen, { ...bergen, id: 4 }];
    const with3 = { rooms: [], history: lastTimes };
    const before = openings(lineUp, w).best[0]!;
    const after = openings(lineUp, w, with3).best[0]!;
    const late = (one: typeof before) => one.outside.find(({ id }) => id === 2)?.minutes ?? 0;
    expect([late(before), late(after)]).toEqual([60, 30]);
    const [once] = openings(lineUp, w, with3, (slot) => slot === 4).best;
    expect(once!.outside[0]).toMatchObject({ id: 2, side: 'late', turns: 3 });
  });

  it('picks at each site the room that fits best and is free', () => {
    const room = (id: number, seats: number, floor: string, busy: [number, number][] = []) => ({
      id,
      name: `Room ${id}`,
      siteId: 1,
      site: 'Bergen',
      floor,
      seats,
      features: [],
      busy: busy.map(([start, end]) => ({ start: at(start), end: at(end) })),
    });
    const people = [1, 2].map((id) => member({ id, siteId: 1, floor: '2' }));
    const rooms = [
      room(10, 20, '2'),
      room(11, 2, '2', [[8, 10]]),
      room(12, 2, '5'),
      room(13, 1, '2'),
    ];
    const { best } = openings(people, wishes({ places: 'fitting' }), { rooms, history: [] });
    expect(best[0]!.rooms[0]).toMatchObject({ site: 'Bergen', people: 2, fitting: 3 });
    const picked = (start: number) =>
      openings(
        people,
        wishes({ places: 'fitting' }),
        { rooms, history: [] },
        (slot) => slot === start * 4,
      ).best[0]!.rooms[0]!.room!.name;
    expect(picked(8)).toBe('Room 10');
    expect(picked(10)).toBe('Room 11');
  });

  it('offers the least bad where nothing is good, the fewest conflicts first', () => {
    const busy = (from: number, to: number) => [
      { start: at(from), end: at(to), occupancy: 'busy' as const },
    ];
    const members = [
      member({ id: 1, busy: busy(8, 12) }),
      member({ id: 2, busy: busy(12, 16) }),
      member({ id: 3, busy: busy(8, 11) }),
    ];
    expect(openings(members, wishes()).count).toBe(0);
    const least = openings(members, wishes({ leastBad: true }));
    expect(least.count).toBe(0);
    expect(least.best[0]!.missing).toHaveLength(1);
    expect(least.best[0]!.points.conflicts).toBe(WEIGHTS.conflict);
  });

  it('answers an empty line-up, a meeting longer than the window and a window in the past', () => {
    expect(openings([], wishes())).toEqual({ best: [], count: 0 });
    expect(openings([member()], wishes({ lengthMinutes: 2000 })).count).toBe(0);
    expect(openings([member()], wishes({ notBefore: at(48) })).count).toBe(0);
  });

  it('finds the night of somebody who works at night', () => {
    const night = member({ hours: weekOf({ start: 1320, end: 1800 }) });
    const result = openings([night], wishes());
    expect(result.best.map((one) => one.start)).toContain(at(0));
    expect(result.best.every((one) => one.start < at(6) || one.start >= at(22))).toBe(true);
  });

  it('finds five minutes, twelve hours, and days with two clock changes in the window', () => {
    expect(openings([member()], wishes({ lengthMinutes: 5, stepMinutes: 5 })).count).toBe(96);
    const long = member({ hours: weekOf({ start: 420, end: 1200 }) });
    expect(openings([long], wishes({ lengthMinutes: 720 })).count).toBe(5);
    const oslo = member({ zone: 'Europe/Oslo' });
    const year = { start: Date.UTC(2026, 8, 28), end: Date.UTC(2027, 3, 5) };
    const all = openings([oslo], wishes({ window: year, notBefore: year.start, limit: 400 }));
    const shown = new Set(
      all.best.map((one) =>
        new Intl.DateTimeFormat('en-GB', { timeZone: 'Europe/Oslo', hour: '2-digit' }).format(
          one.start,
        ),
      ),
    );
    expect(Math.min(...[...shown].map(Number))).toBe(8);
    expect(Math.max(...[...shown].map(Number))).toBeLessThan(16);
  });

  it('returns the same best ones however the line-up is ordered', () => {
    const others = [
      member(),
      member({ id: 2, zone: 'Europe/Oslo' }),
      member({ id: 3, zone: 'Asia/Kolkata' }),
    ];
    const starts = (list: LineUpMember[]) =>
      openings(list, wishes({ stretchMinutes: 120 })).best.map((one) => one.start);
    expect(starts(others)).toEqual(starts([...others].reverse()));
  });
});
