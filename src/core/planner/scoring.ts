import { BlockedCounter, SlotSums, slotStart, type SlotGrid } from '../availability/slots.ts';
import { DAY, MINUTE, type Interval } from '../time/interval.ts';
import { forEachGap, unionOf, type Standing } from '../time/spans.ts';
import { toLocal, zoneTables, type ZoneTable } from '../time/zoneTable.ts';
import { middayMinutes, outsideMinutes, outsideOf, type OutsideHours } from './hours.ts';
import { isNeeded, othersThan, type PreparedMember } from './lineUp.ts';
import { MOST_TURNS, NO_TURNS, type Turns } from './turns.ts';
import { BREAK_MINUTES, NOTICE_MINUTES, QUIET_MINUTES, WEIGHTS } from './weights.ts';
import type { Wishes } from './wishes.ts';

export interface Weighing {
  prepared: readonly PreparedMember[];
  wishes: Wishes;
  turns: ReadonlyMap<number, Turns>;
  tables: (zone: string) => ZoneTable;
  /** Whether others than the asker come, for whom short notice weighs. */
  hasOthers: boolean;
}

/** What starts are weighed with. */
export const weighingOf = (
  prepared: readonly PreparedMember[],
  wishes: Wishes,
  turns: ReadonlyMap<number, Turns>,
): Weighing => ({
  prepared,
  wishes,
  turns,
  tables: zoneTables(wishes.window),
  hasOthers: othersThan(wishes.askerId, prepared) > 0,
});

/** Those whose comfort weighs: people whose conflicts exclude a time. */
const weighed = ({ prepared, wishes }: Weighing) =>
  prepared.filter((one) => one.kind === 'person' && isNeeded(one, wishes));

/** What a minute outside hours weighs for somebody who had such an hour before. */
export const outsideWeight = (turns: Turns, side: OutsideHours['side']): number =>
  WEIGHTS.outsideMinute *
  (1 + WEIGHTS.again * Math.min(side === 'break' ? 0 : turns[side], MOST_TURNS));

/** Points of waiting, of an odd start and of short notice, which hang on the start alone. */
export function startPoints(
  start: number,
  { wishes, tables, hasOthers }: Weighing,
): [waiting: number, odd: number, notice: number] {
  const local = tables(wishes.zone);
  const shown = toLocal(local, start);
  const first = Math.floor(toLocal(local, Math.max(wishes.window.start, wishes.notBefore)) / DAY);
  return [
    Math.max(0, Math.floor(shown / DAY) - first) * WEIGHTS.dayLater,
    shown % (30 * MINUTE) === 0 ? 0 : WEIGHTS.oddStart,
    hasOthers && wishes.now !== undefined
      ? Math.max(0, NOTICE_MINUTES - (start - wishes.now) / MINUTE) * WEIGHTS.noticeMinute
      : 0,
  ];
}

/**
 * The points of every start in the window, all but those of rooms and conflicts. Costs the number
 * of spans, plus slots for every kind of working hours, whatever the length of the meeting.
 * @param candidates slots whose points are asked for; those of others are not complete
 */
export function slotPoints(
  weighing: Weighing,
  grid: SlotGrid,
  candidates: readonly number[],
): Float64Array {
  const { prepared, wishes } = weighing;
  const points = comfortPoints(weighing, grid);
  const missing = new BlockedCounter(grid, wishes.lengthMinutes);
  const absentOrUnknown = new BlockedCounter(grid, wishes.lengthMinutes);
  const absent = new BlockedCounter(grid, wishes.lengthMinutes);
  for (const member of prepared) {
    if (member.kind !== 'person') continue;
    if (!isNeeded(member, wishes)) missing.add(member.taken, member.absurd);
    if (member.doubtful.length === 0) continue;
    // Whoever is away anyway is not in doubt.
    absent.add(member.taken, member.absurd);
    absentOrUnknown.add(unionOf(member.taken, member.doubtful), member.absurd);
  }
  const [missingCounts, either, away] = [missing, absentOrUnknown, absent].map((one) =>
    one.counts(),
  ) as [Uint16Array, Uint16Array, Uint16Array];
  for (const slot of candidates) {
    const [waiting, odd, notice] = startPoints(slotStart(grid, slot), weighing);
    points[slot] =
      points[slot]! +
      missingCounts[slot]! * WEIGHTS.missing +
      (either[slot]! - away[slot]!) * WEIGHTS.unknown +
      waiting +
      odd +
      notice;
  }
  addHours(points, weighing, grid, candidates);
  return points;
}

/**
 * Back-to-back meetings and broken quiet time, in a few additions for each gap in somebody's day.
 * Sums are whole sides and minutes until the end, so that equal starts come out equal.
 */
function comfortPoints(weighing: Weighing, grid: SlotGrid): Float64Array {
  const { lengthMinutes, window } = weighing.wishes;
  const length = lengthMinutes * MINUTE;
  const quiet = QUIET_MINUTES * MINUTE;
  const rest = BREAK_MINUTES * MINUTE;
  const sides = new SlotSums(grid);
  const broken = new SlotSums(grid);
  for (const member of weighed(weighing)) {
    forEachGap(member.taken, member.absurd, window, (start, end, lastEnd, nextStart) => {
      const last = end - length;
      if (last < start) return;
      sides.add(start, Math.min(last, lastEnd + rest - 1), 1);
      sides.add(Math.max(start, nextStart - rest + 1 - length), last, 1);
    });
    forEachGap(member.loud, member.closed, window, (start, end) => {
      const last = end - length;
      if (last < start || end - start < quiet) return;
      // What is left before and after the meeting is broken up where it is shorter than quiet time.
      broken.add(start, Math.min(last, start + quiet - MINUTE), 0, 1);
      const from = Math.max(start, last - quiet + MINUTE);
      broken.add(from, last, (last - from) / MINUTE, -1);
    });
  }
  const minutes = broken.values();
  return sides
    .values()
    .map((n, slot) => n * WEIGHTS.backToBack + minutes[slot]! * WEIGHTS.brokenMinute);
}

/** People with the same hours in the same zone and the same turns pay the same: one sweep a group. */
function addHours(
  points: Float64Array,
  weighing: Weighing,
  grid: SlotGrid,
  candidates: readonly number[],
) {
  const { wishes, turns, tables } = weighing;
  const groups = new Map<string, { member: PreparedMember; turns: Turns; size: number }>();
  for (const member of weighed(weighing)) {
    if (!member.open) continue;
    const own = turns.get(member.id) ?? NO_TURNS;
    const key = `${member.hoursKey}|${own.early}|${own.late}`;
    const group = groups.get(key);
    if (group) group.size++;
    else groups.set(key, { member, turns: own, size: 1 });
  }
  const length = wishes.lengthMinutes * MINUTE;
  for (const { member, turns: own, size } of groups.values()) {
    const table = tables(member.zone);
    for (const slot of candidates) {
      const start = slotStart(grid, slot);
      const meeting = { start, end: start + length };
      const outside = outsideOf({ open: member.open!, days: member.days }, meeting);
      const midday = middayMinutes(meeting, table) * WEIGHTS.middayMinute;
      const hours = outside
        ? outsideMinutes({ open: member.open!, days: member.days }, meeting, table) *
          outsideWeight(own, outside.side)
        : 0;
      points[slot] = points[slot]! + size * (hours + midday);
    }
  }
}

/** Points to four places: sums of the same parts in another order are equal. */
export const rounded = (points: number): number => Math.round(points * 1e4) / 1e4;

/** On how many sides a meeting comes within ten minutes of another commitment: 0, 1 or 2. */
export const touches = (taken: Standing, meeting: Interval): number =>
  Number(taken.lastEnd > meeting.start - BREAK_MINUTES * MINUTE) +
  Number(taken.nextStart < meeting.end + BREAK_MINUTES * MINUTE);

/**
 * Minutes of undisturbed time that a meeting breaks up; 0 where it leaves them whole.
 * @param taken how it stands to a person's commitments
 * @param closed how it stands to the time outside their hours
 */
export function brokenMinutes(
  taken: Standing,
  closed: Standing,
  meeting: Interval,
  window: Interval,
): number {
  if (taken.overlaps || closed.overlaps) return 0;
  const quiet = QUIET_MINUTES * MINUTE;
  const before = meeting.start - Math.max(window.start, taken.lastEnd, closed.lastEnd);
  const after = Math.min(window.end, taken.nextStart, closed.nextStart) - meeting.end;
  if (before + after + meeting.end - meeting.start < quiet) return 0;
  return ((before < quiet ? before : 0) + (after < quiet ? after : 0)) / MINUTE;
}
