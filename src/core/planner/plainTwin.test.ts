import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lineUps, rooms, windows, zones } from '../../../tests/twins/arbitraries.ts';
import { PlainReckoning } from '../../../tests/twins/plainReckoning.ts';
import { slotGrid, slotStart } from '../availability/slots.ts';
import { DAY, MINUTE, type Interval } from '../time/interval.ts';
import type { BlockerQuestion } from './blockers.ts';
import { openings } from './openings.ts';
import { weeklyTimes } from './series.ts';
import { usualLead, type PastMeeting, type Wishes } from './wishes.ts';
import { isLong } from '../../../tests/support/effort.ts';

/** More of them can be asked for by hand. */
/** Five thousand in the long form, which takes the better part of an hour. */
const CASES = isLong ? 5_000 : 40;

/** Times that other organizations publish have seconds. */
const withSeconds = (shift: number) => (span: Interval) => ({
  ...span,
  start: span.start + (shift % 60) * 1000,
  end: span.end + ((shift * 7) % 60) * 1000,
});

const past = (window: Interval): fc.Arbitrary<PastMeeting[]> =>
  fc
    .array(
      fc.record({
        daysAgo: fc.integer({ min: 1, max: 60 }),
        minute: fc.integer({ min: 0, max: 95 }).map((n) => n * 15),
        minutes: fc.constantFrom(30, 60, 90),
        people: fc.subarray([1, 2, 3]),
      }),
      { maxLength: 5 },
    )
    .map((list) =>
      list
        .map(({ daysAgo, minute, minutes, people }) => {
          const start = window.start - daysAgo * DAY + minute * MINUTE;
          return { start, end: start + minutes * MINUTE, people };
        })
        .sort((a, b) => b.start - a.start),
    );

const asked = fc.record({
  lengthMinutes: fc.integer({ min: 1, max: 24 }).map((n) => n * 5),
  rule: fc.constantFrom('required' as const, 'everyone' as const),
  places: fc.constantFrom('listed' as const, 'fitting' as const, 'ignored' as const),
  rooms: fc.record({
    features: fc.constantFrom([], ['video']),
    text: fc.constantFrom('', '', 'room 1'),
    without: fc.constantFrom([], [1]),
  }),
  stretchMinutes: fc.constantFrom(0, 60, 180, 720),
  stretches: fc.constantFrom<Wishes['stretches']>({}, { 'Asia/Kolkata': { early: 60, late: 30 } }),
  tentativeIsFree: fc.boolean(),
  unknown: fc.constantFrom('busy' as const, 'ignored' as const),
  between: fc.constantFrom(null, null, { from: 480, to: 1080 }),
  leastBad: fc.boolean(),
  zone: zones,
});

/** Line-ups of three over some days: seconds, split days, unknown time, wishes, rooms and histories. */
const cases = (lengthDays: number): fc.Arbitrary<BlockerQuestion> =>
  windows(lengthDays).chain((window) =>
    fc
      .record({
        members: lineUps(window, 3),
        seconds: fc.integer({ min: 0, max: 59 }),
        rooms: rooms(window),
        history: past(window),
        asked,
        nowAfter: fc.integer({ min: -300, max: 900 }),
        trimmed: fc.constantFrom(0, 5, 10),
      })
      .map(({ members, seconds, nowAfter, trimmed, history, ...rest }): BlockerQuestion => {
        const now = window.start + nowAfter * MINUTE;
        const people = members.filter((one) => one.kind === 'person' && !one.setAside).length;
        return {
          members: members.map((one) => ({
            ...one,
            busy: one.busy.map((span) => ({ ...span, ...withSeconds(seconds)(span) })),
          })),
          surroundings: { rooms: rest.rooms, history },
          wishes: {
            ...rest.asked,
            // A window may end within a step.
            window: { start: window.start, end: window.end - trimmed * MINUTE },
            now,
            notBefore: now + usualLead(people - 1) * MINUTE,
            askerId: members.find((one) => one.kind === 'person' && !one.setAside)?.id ?? 0,
            stepMinutes: 15,
            limit: 500,
          },
        };
      }),
  );

describe('Plan against a reckoning written from its description alone', () => {
  it('possible starts, their points and their order are those of everybody’s minutes', () => {
    fc.assert(
      fc.property(
        cases(2),
        fc.integer({ min: 0, max: 6 }),
        ({ members, wishes, surroundings }, some) => {
          if (!members.some((one) => !one.setAside)) return;
          const plain = new PlainReckoning(members, wishes, surroundings);
          const all = plain.starts().map((start) => plain.at(start));
          const possible = all.filter((one) => one.inTheWay === 0);
          const found = openings(members, wishes, surroundings);
          expect(found.count).toBe(possible.length);

          const grid = slotGrid(wishes.window, wishes.stepMinutes);
          for (let slot = some; slot < grid.count; slot += 7) {
            const start = slotStart(grid, slot);
            const [alone] = openings(members, wishes, surroundings, (k) => k === slot).best;
            const twin = all.find((one) => one.start === start);
            if (!alone) {
              if (!wishes.leastBad) expect(twin?.inTheWay ?? 1).toBeGreaterThan(0);
              continue;
            }
            expect(twin).toBeDefined();
            expect(alone.score).toBeCloseTo(twin!.cost + twin!.delay, 6);
            for (const { id, side } of alone.outside) expect(side).toBe(twin!.sides[id]);
          }

          const offered = found.best.map((one) => all.find((twin) => twin.start === one.start)!);
          const totals = offered.map((one) => one.cost + one.delay);
          const least = wishes.leastBad ? all.filter((one) => offered.includes(one)) : possible;
          if (offered.length > 0)
            expect(totals[0]).toBeCloseTo(Math.min(...least.map((one) => one.cost + one.delay)), 6);
          totals.forEach((total, k) =>
            expect(total).toBeGreaterThanOrEqual((totals[k - 1] ?? 0) - 1e-6),
          );
        },
      ),
      { numRuns: CASES },
    );
  }, 3_600_000);

  it('weekly times work on the dates that the minutes say, and cost the mean of those', () => {
    fc.assert(
      fc.property(cases(21), ({ members, wishes: w, surroundings }) => {
        if (!members.some((one) => !one.setAside)) return;
        const wishes = {
          ...w,
          leastBad: false,
          between: null,
          now: undefined,
          notBefore: w.window.start,
        };
        const plain = new PlainReckoning(members, wishes, surroundings);
        for (const weekly of weeklyTimes({ members, wishes, surroundings }, { count: 2 })) {
          const dates = weekly.dates.map((date) => plain.at(date.start));
          const failing = weekly.failing.map((one) => one.start);
          for (const date of dates) expect(failing.includes(date.start)).toBe(date.inTheWay > 0);
          for (const one of weekly.failing)
            expect(one.blockers).toHaveLength(plain.at(one.start).inTheWay);
          const works = dates.filter((one) => one.inTheWay === 0);
          if (works.length === 0) continue;
          const mean = works.reduce((sum, one) => sum + one.cost, 0) / works.length;
          expect(weekly.points).toBeCloseTo(mean, 6);
        }
      }),
      { numRuns: Math.ceil(CASES / 3) },
    );
  }, 3_600_000);
});
