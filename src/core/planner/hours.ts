import { DAY, HOUR, MINUTE, firstEndingAfter, type Interval } from '../time/interval.ts';
import { toLocal, type ZoneTable } from '../time/zoneTable.ts';
import type { PreparedMember } from './lineUp.ts';

/** Part of a meeting that lies outside a person's own working hours. */
export interface OutsideHours {
  id: number;
  minutes: number;
  /** Before or after their day, or in a break between two of its shifts. */
  side: 'early' | 'late' | 'break';
}

/** Up to this long, time between two shifts is a break of one day and not the end of it. */
const LONGEST_BREAK = 4 * HOUR;

/** Disjoint, sorted working hours with the breaks of split days in them. */
export function overBreaks(open: readonly Interval[]): Interval[] {
  const days: Interval[] = [];
  for (const { start, end } of open) {
    const last = days.at(-1);
    if (last && start - last.end <= LONGEST_BREAK) last.end = end;
    else days.push({ start, end });
  }
  return days;
}

/**
 * How much of a meeting lies outside disjoint, sorted working hours, and on which side: in a break
 * where it lies within a day; late where it starts within one, early where it ends within one, else
 * the side of the nearer day.
 * @param days the same hours with their breaks, as `overBreaks` gives them
 * @returns null when no minute does
 */
export function outsideOf(
  { open, days }: { open: readonly Interval[]; days: readonly Interval[] },
  meeting: Interval,
): Omit<OutsideHours, 'id'> | null {
  let inside = 0;
  for (let k = firstEndingAfter(open, meeting.start); k < open.length; k++) {
    const shift = open[k]!;
    if (shift.start >= meeting.end) break;
    inside += Math.min(shift.end, meeting.end) - Math.max(shift.start, meeting.start);
  }
  const minutes = (meeting.end - meeting.start - inside) / MINUTE;
  return minutes <= 0 ? null : { minutes, side: sideOf(days, meeting) };
}

function sideOf(days: readonly Interval[], meeting: Interval): OutsideHours['side'] {
  let k = firstEndingAfter(days, meeting.start);
  const startsInside = k < days.length && days[k]!.start <= meeting.start;
  if (startsInside) return meeting.end <= days[k]!.end ? 'break' : 'late';
  const since = k > 0 ? meeting.start - days[k - 1]!.end : Number.POSITIVE_INFINITY;
  while (k < days.length && days[k]!.end < meeting.end) k++;
  if (k < days.length && days[k]!.start < meeting.end) return 'early';
  const toNext = k < days.length ? days[k]!.start - meeting.end : Number.POSITIVE_INFINITY;
  return toNext < since ? 'early' : 'late';
}

/** `outsideOf` for a member; null for those without hours. */
export function outsideHours(
  { id, open, days }: Pick<PreparedMember, 'id' | 'open' | 'days'>,
  meeting: Interval,
): OutsideHours | null {
  const outside = open && outsideOf({ open, days }, meeting);
  return outside && { id, ...outside };
}

/** Minutes of a meeting between 12:00 and 13:00 on a zone's clock. */
export function middayMinutes(meeting: Interval, table: ZoneTable): number {
  const start = toLocal(table, meeting.start);
  const end = start + meeting.end - meeting.start;
  let minutes = 0;
  for (let noon = Math.floor(start / DAY) * DAY + 12 * HOUR; noon < end; noon += DAY) {
    minutes += Math.max(0, Math.min(end, noon + HOUR) - Math.max(start, noon)) / MINUTE;
  }
  return minutes;
}
