import fc from 'fast-check';
import type { BookingTerms } from '../../src/core/booking/terms.ts';
import type { BlockerQuestion } from '../../src/core/planner/blockers.ts';
import type { LineUpMember } from '../../src/core/planner/lineUp.ts';
import { NO_ROOM_WISHES, type Wishes } from '../../src/core/planner/wishes.ts';
import { MINUTE } from '../../src/core/time/interval.ts';
import { weekOf } from '../../src/core/time/workingHours.ts';
import { lineUps, rooms, windows, zones } from './arbitraries.ts';

/** Tuesday 24 November 2026, in UTC. */
export const DAY_START = Date.UTC(2026, 10, 24);
export const at = (hour: number, minute = 0) => DAY_START + (hour * 60 + minute) * MINUTE;

/** Somebody in UTC who works from eight to four and has nothing on. */
export const member = (changes: Partial<LineUpMember> = {}): LineUpMember => ({
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

/** A place in UTC that asks nothing of bookings. */
export const NO_TERMS: BookingTerms = {
  shortestMinutes: null,
  longestMinutes: null,
  stepMinutes: null,
  weeklyMinutes: null,
  zone: 'UTC',
  weeks: [],
};

export const wishes = (changes: Partial<Wishes> = {}): Wishes => ({
  window: { start: DAY_START, end: at(24) },
  notBefore: DAY_START,
  lengthMinutes: 60,
  stepMinutes: 15,
  rule: 'required',
  places: 'listed',
  rooms: NO_ROOM_WISHES,
  stretchMinutes: 0,
  stretches: {},
  tentativeIsFree: false,
  unknown: 'busy',
  leastBad: false,
  zone: 'UTC',
  askerId: 1,
  limit: 8,
  ...changes,
});

export const question = (
  members: LineUpMember[],
  changes: Partial<Wishes> = {},
): BlockerQuestion => ({
  members,
  wishes: wishes(changes),
  surroundings: { rooms: [], history: [] },
});

const asked = fc.record({
  lengthMinutes: fc.integer({ min: 1, max: 30 }).map((n) => n * 5),
  rule: fc.constantFrom('required' as const, 'everyone' as const),
  places: fc.constantFrom(
    'listed' as const,
    'fitting' as const,
    'fitting' as const,
    'ignored' as const,
  ),
  rooms: fc.record({
    features: fc.constantFrom([], [], ['video']),
    text: fc.constant(''),
    without: fc.constantFrom([], [], [1]),
  }),
  stretchMinutes: fc.constantFrom(0, 30, 60, 120),
  stretches: fc.constantFrom<Wishes['stretches']>({}, { 'Asia/Kolkata': { early: 60, late: 0 } }),
  tentativeIsFree: fc.boolean(),
  unknown: fc.constantFrom('busy' as const, 'ignored' as const),
  later: fc.integer({ min: 0, max: 40 }),
  zone: zones,
});

/** A random organization and what is asked of it, two days around a clock change. */
export const questions = (people = 4): fc.Arbitrary<BlockerQuestion> =>
  windows(2).chain((window) =>
    fc
      .record({ members: lineUps(window, people), rooms: rooms(window), asked })
      .map(({ members, rooms: list, asked: { later, ...rest } }): BlockerQuestion => ({
        members,
        surroundings: { rooms: list, history: [] },
        wishes: {
          ...rest,
          window,
          notBefore: window.start + later * 15 * MINUTE,
          stepMinutes: 15,
          leastBad: false,
          askerId: 1,
          limit: 500,
        },
      })),
  );
