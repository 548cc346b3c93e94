import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { naiveBlockers } from '../../../tests/twins/naiveOpenings.ts';
import { member, question, wishes } from '../../../tests/twins/planning.ts';
import { lineUps, zones } from '../../../tests/twins/arbitraries.ts';
import { DAY, MINUTE } from '../time/interval.ts';
import { resolveWallTime, startOfDay, wallTimeAt } from '../time/wall.ts';
import { weeklyTimeAt, weeklyTimes } from './series.ts';

const WEEKS = 5;
/** Five weeks across the clock changes of October and November 2026. */
const start = startOfDay('2026-10-12', 'Europe/Oslo');
const window = { start, end: start + (WEEKS + 1) * 7 * DAY };

describe('weekly times', () => {
  it('keep their time on the asker’s clock, fail where a scan says so, and come best first', () => {
    fc.assert(
      fc.property(lineUps({ start, end: start + 8 * DAY }, 3), zones, (members, zone) => {
        const asked = {
          ...question(members, {
            window,
            notBefore: start,
            zone,
            lengthMinutes: 45,
            stretchMinutes: 60,
          }),
        };
        const found = weeklyTimes(asked, { count: WEEKS });
        for (const weekly of found) {
          expect(weekly.dates).toHaveLength(WEEKS);
          const minutes = weekly.dates.map((date) => wallTimeAt(date.start, zone).slice(11));
          const usual = minutes[0]!;
          weekly.dates.forEach((date, k) => {
            const wall = wallTimeAt(date.start, zone);
            const meant = `${wall.slice(0, 10)}T${usual}`;
            // A time that the clock skips is read as RFC 5545 asks.
            expect(resolveWallTime(meant, zone).instant, `${k}`).toBe(date.start);
          });
          const failing = weekly.dates.filter(
            (date) => naiveBlockers(members, date, asked.wishes).length > 0,
          );
          expect(weekly.failing.map((one) => one.start)).toEqual(failing.map((one) => one.start));
          for (const fail of weekly.failing) {
            expect(fail.blockers.map((b) => (b.kind === 'member' ? b.id : 0))).toEqual(
              naiveBlockers(members, fail, asked.wishes),
            );
            if (fail.instead)
              expect(naiveBlockers(members, fail.instead, asked.wishes)).toEqual([]);
          }
        }
        const works = found.map((one) => WEEKS - one.failing.length);
        expect(works).toEqual([...works].sort((a, b) => b - a));
      }),
      { numRuns: 25 },
    );
  }, 60_000);

  it('names the dates that fail, who is in the way, and another time of the same week', () => {
    const monday = Date.UTC(2026, 10, 23);
    const long = { start: monday, end: monday + 4 * 7 * DAY };
    const leave = { start: monday + 8 * DAY, end: monday + 9 * DAY, occupancy: 'away' as const };
    const people = [
      member({ id: 1, busy: [leave] }),
      member({
        id: 2,
        busy: [0, 2, 3, 4].flatMap((day) =>
          [0, 7, 14, 21]
            .map((week) => ({
              start: monday + (day + week) * DAY,
              end: monday + (day + week + 1) * DAY,
              occupancy: 'busy' as const,
            }))
            .filter((span) => span.start !== monday + 9 * DAY),
        ),
      }),
    ];
    const asked = question(people, { window: long, notBefore: monday });
    const [best] = weeklyTimes(asked, { count: 4 });
    expect(best).toMatchObject({ weekday: 2, minute: 480 });
    expect(best!.failing).toHaveLength(1);
    expect(best!.failing[0]).toMatchObject({
      start: monday + 8 * DAY + 480 * MINUTE,
      blockers: [{ kind: 'member', id: 1 }],
      instead: { start: monday + 9 * DAY + 480 * MINUTE },
    });
    const chosen = weeklyTimeAt(asked, monday + DAY + 600 * MINUTE, { count: 4 });
    expect(chosen).toMatchObject({ weekday: 2, minute: 600, failing: [{ blockers: [{ id: 1 }] }] });
  });

  it('are none for nobody, and every second week where that is asked', () => {
    expect(weeklyTimes(question([]), { count: 3 })).toEqual([]);
    const long = { start: wishes().window.start, end: wishes().window.start + 8 * 7 * DAY };
    const [best] = weeklyTimes(question([member()], { window: long }), { count: 3, everyWeeks: 2 });
    expect(best!.dates[1]!.start - best!.dates[0]!.start).toBe(14 * DAY);
  });
});
