import fc from 'fast-check';
import type { BookingTerms } from '../../src/core/booking/terms.ts';
import type { LineUpMember } from '../../src/core/planner/lineUp.ts';
import type { RoomCandidate } from '../../src/core/planner/wishes.ts';
import { MINUTE, sorted, type Interval } from '../../src/core/time/interval.ts';
import { startOfDay } from '../../src/core/time/wall.ts';

/** North and south, with and without clock changes, half and quarter hours off, half-hour changes. */
export const zones = fc.constantFrom(
  'Europe/Oslo',
  'America/Halifax',
  'Australia/Hobart',
  'Africa/Nairobi',
  'Asia/Kolkata',
  'Asia/Kathmandu',
  'Australia/Lord_Howe',
  'America/St_Johns',
);

/** Days at and around clock changes somewhere, and an ordinary one. */
const days = fc.constantFrom(
  '2026-10-03',
  '2026-10-24',
  '2026-10-31',
  '2026-11-24',
  '2027-03-13',
  '2027-03-27',
  '2027-04-03',
);

export const windows = (lengthDays: number): fc.Arbitrary<Interval> =>
  days.map((day) => {
    const start = startOfDay(day, 'Europe/Oslo');
    return { start, end: start + lengthDays * 24 * 60 * MINUTE };
  });

const shift = fc
  .tuple(fc.integer({ min: 0, max: 280 }), fc.integer({ min: 12, max: 140 }))
  .map(([start, length]) => ({ start: start * 5, end: start * 5 + length * 5 }));

const hours = fc
  .tuple(fc.array(shift, { minLength: 1, maxLength: 2 }), fc.subarray([0, 1, 2, 3, 4, 5, 6]))
  .map(([shifts, off]) =>
    Array.from({ length: 7 }, (_, day) => (off.length < 5 && off.includes(day) ? [] : shifts)),
  );

const busy = (window: Interval) =>
  fc
    .tuple(
      fc.integer({ min: -60, max: (window.end - window.start) / (5 * MINUTE) }),
      fc.integer({ min: 1, max: 60 }),
      fc.constantFrom('busy' as const, 'tentative' as const, 'away' as const, 'unknown' as const),
    )
    .map(([at, length, occupancy]) => ({
      start: window.start + at * 5 * MINUTE,
      end: window.start + (at + length) * 5 * MINUTE,
      occupancy,
    }));

const SITES = [1, 2];

/** What places ask of bookings, most of them nothing; weeks begin anywhere in the window. */
export const terms = (window: Interval): fc.Arbitrary<BookingTerms | null> =>
  fc.oneof(
    { weight: 3, arbitrary: fc.constant(null) },
    {
      weight: 1,
      arbitrary: fc
        .record({
          shortestMinutes: fc.constantFrom(null, null, 15, 45),
          longestMinutes: fc.constantFrom(null, null, 60, 90),
          stepMinutes: fc.constantFrom(null, null, 5, 15, 30, 60),
          weeklyMinutes: fc.constantFrom(null, null, 30, 60, 120),
          zone: zones,
          monday: fc.integer({ min: -168, max: 0 }),
          had: fc.array(fc.constantFrom(0, 0, 30, 75, 500), { minLength: 4, maxLength: 4 }),
        })
        .map(({ monday, had, ...bounds }) => ({
          ...bounds,
          weeks: had.map((minutes, k) => {
            const start = window.start + (monday + k * 168) * 60 * MINUTE;
            return { start, end: start + 168 * 60 * MINUTE, had: minutes };
          }),
        })),
    },
  );

/** Days around the windows' clock changes that are off at a site. */
const holidays = fc.subarray(
  ['2026-10-24', '2026-10-26', '2026-11-24', '2026-11-25', '2027-03-29'].map((date) => ({
    date,
    name: 'A day off',
    // Also the halves of days.
    ...(date === '2026-11-24' && { part: { start: 720, end: 1440 } }),
    ...(date === '2026-10-26' && { part: { start: 0, end: 750 } }),
  })),
);

export const lineUps = (window: Interval, maxLength = 4): fc.Arbitrary<LineUpMember[]> =>
  fc
    .array(
      fc.record({
        kind: fc.constantFrom('person' as const, 'person' as const, 'resource' as const),
        role: fc.constantFrom('required' as const, 'required' as const, 'optional' as const),
        setAside: fc.constantFrom(false, false, true),
        zone: zones,
        hours,
        holidays,
        siteId: fc.constantFrom(null, ...SITES),
        floor: fc.constantFrom('1', '3', 'attic', ''),
        isRoom: fc.boolean(),
        busy: fc.array(busy(window), { maxLength: 5 }),
        changeovers: fc
          .array(busy(window), { maxLength: 3 })
          .map((spans) => spans.map(({ start, end }) => ({ start: end, end: start }))),
        terms: terms(window),
        knowledge: fc.constantFrom(
          'known' as const,
          'known' as const,
          'known' as const,
          'none' as const,
        ),
      }),
      { minLength: 1, maxLength },
    )
    .map((members) =>
      members.map((member, k) => ({
        ...member,
        id: k + 1,
        name: `Member ${k + 1}`,
        isRoom: member.kind === 'resource' && member.isRoom && member.siteId !== null,
        hours: member.kind === 'resource' ? null : member.hours,
        terms: member.kind === 'resource' ? member.terms : null,
        changeovers:
          member.kind === 'resource' && member.knowledge === 'known' ? member.changeovers : [],
        // Holidays belong to a site, so that those of one site have the same.
        holidays: member.siteId === 1 ? member.holidays.slice(0, 1) : [],
      })),
    )
    .map((members) => {
      const off = members.find((member) => member.siteId === 1)?.holidays ?? [];
      return members.map((one) => (one.siteId === 1 ? { ...one, holidays: off } : one));
    });

const FEATURES = ['screen', 'video'];

export const rooms = (window: Interval): fc.Arbitrary<RoomCandidate[]> =>
  fc
    .array(
      fc.record({
        siteId: fc.constantFrom(...SITES),
        floor: fc.constantFrom('1', '2', 'ground'),
        seats: fc.integer({ min: 1, max: 4 }),
        features: fc.subarray(FEATURES),
        busy: fc.array(busy(window), { maxLength: 6 }).map((spans) => [...sorted(spans)]),
        terms: terms(window),
      }),
      { maxLength: 5 },
    )
    .map((list) =>
      list.map((room, k) => ({
        ...room,
        id: 100 + k,
        name: `Room ${k}`,
        site: `City ${room.siteId}`,
      })),
    );
