import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  at,
  DAY_START,
  member,
  question,
  questions,
  wishes,
} from '../../../tests/twins/planning.ts';
import { DAY, HOUR, MINUTE, overlaps } from '../time/interval.ts';
import { weekOf } from '../time/workingHours.ts';
import { smallestAbsences } from './absences.ts';
import { concessions } from './blockers.ts';
import { zoneTable } from '../time/zoneTable.ts';
import { middayMinutes, outsideOf, overBreaks } from './hours.ts';
import type { LineUpMember } from './lineUp.ts';
import { moves } from './moves.ts';
import { openings } from './openings.ts';
import { weeklyTimes } from './series.ts';
import { turnsOf } from './turns.ts';
import { WEIGHTS } from './weights.ts';
import { NO_SURROUNDINGS } from './wishes.ts';
import { often } from '../../../tests/support/effort.ts';

const busy = (start: number, end: number) => ({ start, end, occupancy: 'busy' as const });

describe('what an offer opens', () => {
  it('has a best start that it adds, also where the least bad are shown', () => {
    fc.assert(
      fc.property(questions(3), (one) => {
        const asked = { ...one, wishes: { ...one.wishes, leastBad: true } };
        const plain = { ...one.wishes, leastBad: false };
        const now = openings(one.members, plain, one.surroundings);
        const possible = new Set(now.best.map((opening) => opening.start));
        for (const { best } of concessions(asked)) {
          expect(best).not.toBeNull();
          expect(best!.points.conflicts).toBe(0);
          // All of them are listed here, so what is added is none of them.
          if (now.count <= plain.limit && best!.end - best!.start === plain.lengthMinutes * MINUTE)
            expect(possible.has(best!.start)).toBe(false);
        }
      }),
      { numRuns: often(40) },
    );
  }, 60_000);

  it('never moves a meeting of mine to where it is', () => {
    // A room that is prepared and cleared for an hour: taken from eight to eleven for nine to ten.
    const me = member();
    const room = member({
      id: 2,
      name: 'Gannet',
      kind: 'resource',
      hours: null,
      busy: [busy(at(8), at(11)), busy(at(11), at(24)), busy(at(0), at(8))],
    });
    const mine = {
      eventId: 'x',
      recurrenceId: null,
      title: 'Mine',
      start: at(9),
      end: at(10),
      takes: [2],
      frees: [],
      lineUp: [{ ...member({ id: 3, name: 'Somebody' }), busy: [] }],
    };
    const found = moves(question([me, room]), [mine]);
    for (const one of found) expect(one.to.start).not.toBe(mine.start);
  });
});

describe('the smallest absences', () => {
  it('are not called complete where starts were left out that need as few', () => {
    // A needed member is away on all days; the organizer on nearly all of them, from the first on.
    const days = 70;
    const window = { start: DAY_START, end: DAY_START + days * DAY };
    const free = DAY_START + (days - 1) * DAY;
    const organizer = member({ hours: null, busy: [busy(DAY_START, free)] });
    const away = member({
      id: 2,
      name: 'Mika',
      hours: null,
      busy: [busy(window.start, window.end)],
    });
    const { sets, complete } = smallestAbsences(question([organizer, away], { window }), {
      keep: [1],
    });
    // Those at which the organizer can are all looked at, late as they are.
    expect(complete).toBe(true);
    expect(sets).toMatchObject([{ blockers: [{ kind: 'member', id: 2 }] }]);
    expect(sets[0]!.best!.start).toBeGreaterThanOrEqual(free);
    // Without one who must come, there are more starts than are looked at.
    const many = smallestAbsences(question([member({ hours: null }), away], { window }));
    expect(many.complete).toBe(false);
  });
});

describe('times with seconds', () => {
  const odd = fc.record({
    from: fc.integer({ min: 0, max: 20 * 3600 }),
    seconds: fc.integer({ min: 1, max: 3 * 3600 }),
  });

  it('are ordered by the points that are shown', () => {
    fc.assert(
      fc.property(fc.array(odd, { minLength: 1, maxLength: 5 }), (spans) => {
        const someone = member({
          busy: spans
            .map(({ from, seconds }) =>
              busy(DAY_START + from * 1000, DAY_START + (from + seconds) * 1000),
            )
            .sort((a, b) => a.start - b.start),
        });
        const w = wishes({ lengthMinutes: 30, limit: 96 });
        const { best } = openings([someone], w);
        best.forEach((opening, k) => {
          expect(opening.score).toBeGreaterThanOrEqual(best[k - 1]?.score ?? 0);
          for (const span of someone.busy) expect(overlaps(span, opening)).toBe(false);
          const alone = openings(
            [someone],
            w,
            NO_SURROUNDINGS,
            (slot) => DAY_START + slot * 15 * MINUTE === opening.start,
          );
          expect(alone.best[0]!.score).toBe(opening.score);
        });
      }),
      { numRuns: often(60) },
    );
  });

  it('and what begins in the window’s last step', () => {
    const window = { start: at(9), end: at(10, 10) };
    const found = openings([member()], wishes({ window, lengthMinutes: 10, limit: 20 }));
    expect(found.count).toBe(5);
    const short = { start: at(9), end: at(9, 10) };
    expect(openings([member()], wishes({ window: short, lengthMinutes: 10 })).count).toBe(1);
    expect(openings([member()], wishes({ window: short, lengthMinutes: 15 })).count).toBe(0);
  });
});

describe('early and late', () => {
  const split = [
    { start: at(9), end: at(12) },
    { start: at(14), end: at(18) },
    { start: at(33), end: at(36) },
  ];
  const side = (start: number, end: number) =>
    outsideOf({ open: split, days: overBreaks(split) }, { start, end })?.side;

  it('are before and after a day; a break of a split one is neither', () => {
    expect(side(at(8), at(9))).toBe('early');
    expect(side(at(8, 30), at(9, 30))).toBe('early');
    expect(side(at(12, 30), at(13))).toBe('break');
    expect(side(at(11, 30), at(14, 30))).toBe('break');
    expect(side(at(17, 30), at(18, 30))).toBe('late');
    expect(side(at(19), at(20))).toBe('late');
    expect(side(at(31), at(32))).toBe('early');
    expect(side(at(10), at(11))).toBeUndefined();
    // Longer than a day: it begins in the one before.
    expect(side(at(17), at(34))).toBe('late');
  });

  it('hang on the nearer day, however far that is', () => {
    // Wednesdays alone, from eight to four: Friday is nearer to the last one, Tuesday to the next.
    const rare = (start: number): LineUpMember[] => [
      member({ hours: weekOf({ start: 480, end: 960 }, [3]), busy: [busy(start, start)] }),
    ];
    const friday = at(12) + 3 * DAY;
    const tuesday = at(12) + 7 * DAY;
    const turns = (start: number) =>
      turnsOf(rare(start), [{ start, end: start + HOUR, people: [1] }]).get(1);
    expect(turns(friday)).toEqual({ early: 0, late: 1 });
    expect(turns(tuesday)).toEqual({ early: 1, late: 0 });
  });

  it('are no turn of anybody’s where it was a break', () => {
    const lunch = { start: at(12), end: at(13) };
    const someone = member({
      hours: [1, 2, 3, 4, 5]
        .map(() => [
          { start: 480, end: 720 },
          { start: 780, end: 960 },
        ])
        .concat([[], []]),
    });
    expect(turnsOf([someone], [{ ...lunch, people: [1] }]).get(1)).toBeUndefined();
    const [opening] = openings(
      [someone],
      wishes({ stretchMinutes: 60 }),
      NO_SURROUNDINGS,
      (slot) => slot === 48,
    ).best;
    expect(opening).toMatchObject({ outside: [{ id: 1, minutes: 60, side: 'break', turns: 0 }] });
    expect(opening!.points.hours).toBe(60);
  });
});

describe('weekly times', () => {
  it('prefer, of those that work as often, the one within everybody’s hours', () => {
    const people = [1, 2, 3].map((id) => member({ id, name: `Person ${id}` }));
    const asked = question(people, {
      window: { start: DAY_START, end: DAY_START + 60 * DAY },
      stretchMinutes: 60,
      lengthMinutes: 30,
    });
    const [best, ...rest] = weeklyTimes(asked, { count: 6 });
    expect(best!.minute).toBeGreaterThanOrEqual(480);
    expect(best!.typical!.outside).toEqual([]);
    expect(best!.points).toBeLessThanOrEqual(Math.min(...rest.map((one) => one.points)));
    // Weighed like openings, each date by itself: the mean of what they come to without waiting.
    for (const weekly of [best!, ...rest]) {
      const points = weekly.dates.map(({ start }) => {
        const grid = (start - DAY_START) / (15 * MINUTE);
        const [alone] = openings(people, asked.wishes, NO_SURROUNDINGS, (k) => k === grid).best;
        return alone!.score - alone!.points.waiting;
      });
      const mean = points.reduce((sum, one) => sum + one, 0) / points.length;
      expect(weekly.points).toBeCloseTo(mean, 3);
    }
  });
});

describe('time of which nothing is known', () => {
  it('costs where it does not exclude, so that known time comes first', () => {
    const unknown = { start: at(9), end: at(10), occupancy: 'unknown' as const };
    const people = [1, 2, 3, 4].map((id) =>
      member({ id, name: `Person ${id}`, busy: id < 4 ? [unknown] : [] }),
    );
    const w = wishes({ unknown: 'ignored', limit: 96 });
    const atNine = (members: LineUpMember[]) =>
      openings(members, w, NO_SURROUNDINGS, (slot) => slot === 36).best[0]!;
    const doubtful = atNine(people);
    expect(doubtful.points.unknown).toBe(3 * WEIGHTS.unknown);
    for (const known of openings(people, w).best) {
      expect(known.points.unknown).toBe(0);
      expect(known.score).toBeLessThan(doubtful.score);
    }
    // Whoever is away anyway is not in doubt.
    const absent = member({
      id: 5,
      role: 'optional',
      busy: [unknown, { ...unknown, occupancy: 'busy' }],
    });
    const with5 = atNine([...people, absent]);
    expect(with5.points.unknown).toBe(3 * WEIGHTS.unknown);
    expect(with5.points.missing).toBe(WEIGHTS.missing);
  });
});

describe('short notice', () => {
  it('costs where others are asked, and nobody alone', () => {
    const people = [member(), member({ id: 2, name: 'Mika' })];
    const w = wishes({ now: at(9, 57), notBefore: at(10), limit: 20 });
    const starting = (members: LineUpMember[], hour: number) =>
      openings(members, w, NO_SURROUNDINGS, (slot) => slot === hour * 4).best[0]!;
    expect(starting(people, 10).points.notice).toBeCloseTo(237 * WEIGHTS.noticeMinute, 6);
    expect(starting(people, 14).points.notice).toBe(0);
    expect(starting([member()], 10).points.notice).toBe(0);
    expect(openings(people, w).best[0]!.start).toBeGreaterThan(at(12));
  });
});

describe('fairness', () => {
  const hours = (from: number, to: number) => weekOf({ start: from * 60, end: to * 60 });
  /** Points of the hours of a meeting of an hour at somebody's own time of day. */
  const pointsAt = (who: LineUpMember, hour: number, minute = 0) =>
    openings(
      [who],
      wishes({
        window: { start: DAY_START, end: DAY_START + 2 * DAY },
        stretchMinutes: 720,
        limit: 1,
      }),
      NO_SURROUNDINGS,
      (slot) => DAY_START + slot * 15 * MINUTE === at(hour, minute),
    ).best[0]!.points.hours;

  it.each([
    [8, 16],
    [9, 17],
    [7, 15],
  ])('a night is dearer than an evening for whoever works from %i to %i', (from, to) => {
    const one = member({ hours: hours(from, to) });
    const [night, early, evening, late] = [
      pointsAt(one, 25, 30),
      pointsAt(one, 5),
      pointsAt(one, 18, 30),
      pointsAt(one, 19),
    ];
    expect(early).toBeGreaterThan(evening);
    // One person's night is no way around two that take an early and a late hour.
    expect(night).toBeGreaterThan(early + late);
  });

  it('costs 1 a minute in the first hour beyond a day, 2 in the second, three times that at night', () => {
    const one = member({ hours: hours(9, 17) });
    expect([8, 7, 6].map((hour) => pointsAt(one, hour))).toEqual([60, 120, 180]);
    expect([17, 18, 19].map((hour) => pointsAt(one, hour))).toEqual([60, 120, 180]);
    expect(pointsAt(one, 5, 30)).toBe(30 * 4 * 3 + 30 * 3);
    expect(pointsAt(one, 22)).toBe(60 * 6 * 3);
    // In the middle between two days no further than six hours count.
    expect(pointsAt(one, 25)).toBe(60 * 6 * 3);
  });

  it('two who give an hour come before one who gives two', () => {
    const [early, late] = [hours(8, 16), hours(10, 18)];
    const shared = [member({ hours: early }), member({ id: 2, hours: late })];
    const sum = (hour: number) => shared.reduce((all, one) => all + pointsAt(one, hour), 0);
    // At nine the second gives an hour; at 17 the first, who is then two hours out.
    expect([sum(9), sum(17)]).toEqual([60, 120]);
  });
});

describe('who is left alone', () => {
  it('needs no notice, and an offer counts what setting the other aside then gives', () => {
    const other = member({ id: 2, name: 'Mika', busy: [busy(at(11), at(16))] });
    const asked = question([member(), other], {
      notBefore: at(11),
      aloneNotBefore: at(9),
      window: { start: at(8), end: at(16) },
    });
    const [without] = concessions(asked, { keep: [1] }).filter(
      (one) => one.concession.kind === 'setAside',
    );
    const alone = openings(
      [member(), { ...other, setAside: true }],
      { ...asked.wishes, notBefore: at(9) },
      NO_SURROUNDINGS,
    );
    expect(without!.gains).toBe(alone.count);
    expect(without!.best!.start).toBeLessThan(at(11));
  });
});

describe('the edges of the window', () => {
  it('leave no break beside what stands right outside of it', () => {
    const before = member({ busy: [busy(at(7), at(9))] });
    const starting = (window: { start: number; end: number }) =>
      openings([before], wishes({ window }), NO_SURROUNDINGS, (slot) => slot === 0).best[0]!;
    expect(starting({ start: at(9), end: at(16) }).backToBack).toEqual([1]);
    expect(starting({ start: at(9, 15), end: at(16) }).backToBack).toEqual([]);
  });

  it('midday is from twelve to one also where the clock changed since the meeting began', () => {
    // Bergen, 28 March 2027: at two the clock goes on to three.
    const midnight = Date.UTC(2027, 2, 27, 23);
    const long = { start: midnight, end: midnight + 12 * HOUR };
    const table = zoneTable('Europe/Oslo', long);
    // Twelve hours later it is one in the afternoon.
    expect(middayMinutes(long, table)).toBe(60);
    expect(middayMinutes({ ...long, end: midnight + 11 * HOUR }, table)).toBe(0);
  });
});
