import { slotStart } from '../availability/slots.ts';
import { DAY, MINUTE, type Interval } from '../time/interval.ts';
import { overlapsAny } from '../time/spans.ts';
import { toInstant, toLocal, zoneTables } from '../time/zoneTable.ts';
import type { BlockerQuestion } from './blockers.ts';
import { isNeeded, isTaken } from './lineUp.ts';
import { rank, type Opening } from './openings.ts';
import { rounded, slotPoints, startPoints, weighingOf } from './scoring.ts';
import { NOT_ASKED, survey, type Blocker, type Survey } from './survey.ts';
import { turnsOf } from './turns.ts';

/** A date of a weekly time on which it does not work. */
export interface FailingDate extends Interval {
  /** Needed members who are taken or outside their hours, and sites without a free room. */
  blockers: Blocker[];
  /** The best start of the same week (Monday to Sunday) for that date alone; null where none is. */
  instead: Opening | null;
}

/** A weekday and time of day, and on how many of the dates everybody can. */
export interface WeeklyTime {
  /** 1 for Monday to 7 for Sunday, on the clock of the asker's zone. */
  weekday: number;
  /** Minutes after local midnight. */
  minute: number;
  /** All the dates, in order. */
  dates: Interval[];
  failing: FailingDate[];
  /** Points of a date on which it works, as an opening has them but for waiting; the mean of them. */
  points: number;
  /** The first date on which it works, with the facts its reasons are made of; null where none does. */
  typical: Opening | null;
}

const WEEK = 7 * DAY;
const MOST_A_WEEKDAY = 2;

/**
 * The weekly times that work on the most of the next `count` dates, best first; of equals the one
 * with fewer people in the way on the failing dates, then the one whose dates cost the fewest points,
 * each weighed like an opening, then the earlier in the week. A date begins at
 * the same time of day on the asker's clock, whatever clocks change in between.
 * @param count how many dates, `everyWeeks` weeks apart; the window must reach as far
 */
export function weeklyTimes(
  question: BlockerQuestion,
  { count, everyWeeks = 1, most = 6 }: { count: number; everyWeeks?: number; most?: number },
): WeeklyTime[] {
  const { members, wishes, surroundings } = question;
  const found = survey(members, wishes, surroundings);
  if (found.prepared.length === 0) return [];
  const patterns = weighPatterns(question, found, count, everyWeeks);
  const everything = found.blockers.length * count;
  const pointsOf = datePoints(question, found);
  for (const pattern of patterns) pattern.points = pointsOf(pattern.slots);
  patterns.sort(
    (a, b) =>
      b.works - a.works ||
      a.inTheWay - b.inTheWay ||
      a.points - b.points ||
      a.weekStart - b.weekStart,
  );
  const chosen: Pattern[] = [];
  for (const pattern of patterns) {
    if (chosen.length >= most) break;
    if (pattern.works === 0 && pattern.inTheWay >= everything) break;
    const day = chosen.filter((one) => one.weekday === pattern.weekday);
    const apart = Math.max(wishes.lengthMinutes, 60);
    if (day.length >= MOST_A_WEEKDAY) continue;
    if (day.some((one) => Math.abs(one.minute - pattern.minute) < apart)) continue;
    chosen.push(pattern);
  }
  return chosen.map((pattern) => described(pattern, question, found));
}

/** What the dates of one weekly time come to, for a weekday and time chosen by hand. */
export function weeklyTimeAt(
  question: BlockerQuestion,
  start: number,
  { count, everyWeeks = 1 }: { count: number; everyWeeks?: number },
): WeeklyTime {
  const { members, wishes, surroundings } = question;
  const found = survey(members, wishes, surroundings);
  const table = zoneTables(wishes.window)(wishes.zone);
  const local = toLocal(table, start);
  const midnight = Math.floor(local / DAY) * DAY;
  const slots = Array.from({ length: count }, (_, k) =>
    slotAt(found, toInstant(table, local + k * everyWeeks * WEEK)),
  );
  const pattern = {
    weekday: weekdayOf(midnight),
    minute: (local - midnight) / MINUTE,
    starts: slots.map((slot) => slotStart(found.grid, slot)),
    slots,
    works: 0,
    inTheWay: 0,
    points: datePoints(question, found)(slots),
    weekStart: 0,
  };
  return described(pattern, question, found);
}

interface Pattern {
  weekday: number;
  minute: number;
  starts: number[];
  slots: number[];
  works: number;
  inTheWay: number;
  /** The mean over the dates on which it works. */
  points: number;
  weekStart: number;
}

/** What the dates of a weekly time cost on which it works, the mean of them. */
function datePoints({ members, wishes, surroundings }: BlockerQuestion, found: Survey) {
  const weighing = weighingOf(found.prepared, wishes, turnsOf(members, surroundings.history));
  const points = slotPoints(weighing, found.grid, found.candidates);
  const rooms = (slot: number) =>
    found.choices.reduce((sum, { need, best }) => sum + (need.fitting[best[slot]!]?.cost ?? 0), 0);
  return (slots: readonly number[]): number => {
    const working = slots.filter((slot) => found.blocked[slot] === 0);
    if (working.length === 0) return 0;
    const sum = working.reduce((before, slot) => {
      const [waiting] = startPoints(slotStart(found.grid, slot), weighing);
      return before + points[slot]! - waiting + rooms(slot);
    }, 0);
    return rounded(sum / working.length);
  };
}

const weekdayOf = (localMidnight: number) => ((((localMidnight / DAY + 3) % 7) + 7) % 7) + 1;

const slotAt = ({ grid }: Survey, instant: number) =>
  Math.round((instant - grid.first) / (grid.stepMinutes * MINUTE));

function weighPatterns(
  { wishes }: BlockerQuestion,
  found: Survey,
  count: number,
  everyWeeks: number,
): Pattern[] {
  const table = zoneTables(wishes.window)(wishes.zone);
  const firstSlot = slotStart(found.grid, found.from);
  const step = wishes.stepMinutes * MINUTE;
  const begin = Math.ceil(toLocal(table, firstSlot) / step) * step;
  const patterns: Pattern[] = [];
  for (let local = begin; local < begin + WEEK; local += step) {
    const midnight = Math.floor(local / DAY) * DAY;
    const starts = Array.from({ length: count }, (_, k) =>
      toInstant(table, local + k * everyWeeks * WEEK),
    );
    const slots = starts.map((start) => slotAt(found, start));
    if (
      slots.some(
        (slot) => slot < found.from || slot >= found.to || found.blocked[slot] === NOT_ASKED,
      )
    )
      continue;
    let works = 0;
    let inTheWay = 0;
    for (const slot of slots) {
      if (found.blocked[slot] === 0) works++;
      inTheWay += found.blocked[slot]!;
    }
    const weekday = weekdayOf(midnight);
    const minute = (local - midnight) / MINUTE;
    patterns.push({
      weekday,
      minute,
      starts,
      slots,
      works,
      inTheWay,
      points: 0,
      weekStart: weekday * 1440 + minute,
    });
  }
  return patterns;
}

function described(pattern: Pattern, question: BlockerQuestion, found: Survey): WeeklyTime {
  const { wishes } = question;
  const length = wishes.lengthMinutes * MINUTE;
  const dates = pattern.starts.map((start) => ({ start, end: start + length }));
  const failing = dates.flatMap((date, k): FailingDate[] =>
    (found.blocked[pattern.slots[k]!] ?? 1) === 0
      ? []
      : [
          {
            ...date,
            blockers: blockersAt(date, pattern.slots[k]!, question, found),
            instead: sameWeek(date, question, found),
          },
        ],
  );
  const works = pattern.slots.find((slot) => found.blocked[slot] === 0);
  const { members, surroundings } = question;
  const asked = { ...wishes, limit: 1, leastBad: false };
  const typical =
    works === undefined
      ? null
      : (rank(found, members, asked, surroundings, (slot) => slot === works).best[0] ?? null);
  const { weekday, minute, points } = pattern;
  return { weekday, minute, dates, failing, points, typical };
}

function blockersAt(
  date: Interval,
  slot: number,
  { wishes }: BlockerQuestion,
  found: Survey,
): Blocker[] {
  const members = found.prepared.filter(
    (one) => isNeeded(one, wishes) && (isTaken(one, date) || overlapsAny(one.absurd, date)),
  );
  const sites = found.choices.filter(({ best }) => best[slot] === -1);
  return [
    ...members.map((one): Blocker => ({ kind: 'member', id: one.id })),
    ...sites.map(({ need }): Blocker => ({ kind: 'site', siteId: need.siteId })),
  ];
}

function sameWeek(
  date: Interval,
  { members, wishes, surroundings }: BlockerQuestion,
  found: Survey,
) {
  const table = zoneTables(wishes.window)(wishes.zone);
  const midnight = Math.floor(toLocal(table, date.start) / DAY) * DAY;
  const monday = midnight - (weekdayOf(midnight) - 1) * DAY;
  const week = { start: toInstant(table, monday), end: toInstant(table, monday + WEEK) };
  const inside = (slot: number) => {
    const start = slotStart(found.grid, slot);
    return start >= week.start && start < week.end;
  };
  const asked = { ...wishes, limit: 1, leastBad: false };
  return rank(found, members, asked, surroundings, inside).best[0] ?? null;
}
