import { DAY, HOUR, MINUTE, firstEndingAfter, type Interval } from '../time/interval.ts';
import { toInstant, toLocal, type ZoneTable } from '../time/zoneTable.ts';
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

/** What a minute weighs in each further hour away from somebody's day, and from which on it stays. */
const MOST_HOURS_OUT = 6;
/** On a person's clock, from its midnight on; what lies in it weighs so many times. */
const NIGHT = { start: 22 * HOUR, end: 30 * HOUR };
const NIGHT_TIMES = 3;

/** The weight of the minutes up to a distance from somebody's day: 1 each in the first hour, 2 in the second. */
function weightUpTo(distance: number): number {
  let sum = 0;
  for (let hour = 1; hour < MOST_HOURS_OUT && distance > 0; hour++, distance -= HOUR)
    sum += hour * Math.min(distance, HOUR);
  return sum + MOST_HOURS_OUT * Math.max(0, distance);
}

/** Weighs a span between two days by how far its minutes are from the nearer of them. */
function weightBetween(span: Interval, since: number, until: number): number {
  const middle = since + (until - since) / 2;
  const near = Math.min(span.end, middle);
  const far = Math.max(span.start, middle);
  return (
    (span.start < near ? weightUpTo(near - since) - weightUpTo(span.start - since) : 0) +
    (far < span.end ? weightUpTo(until - far) - weightUpTo(until - span.end) : 0)
  );
}

/** The nights of a zone's clock that a span touches. */
function nightsIn(span: Interval, table: ZoneTable): Interval[] {
  const nights: Interval[] = [];
  const first = Math.floor(toLocal(table, span.start) / DAY) * DAY - DAY;
  for (let midnight = first; midnight + NIGHT.start <= toLocal(table, span.end); midnight += DAY) {
    const night = {
      start: Math.max(span.start, toInstant(table, midnight + NIGHT.start)),
      end: Math.min(span.end, toInstant(table, midnight + NIGHT.end)),
    };
    if (night.start < night.end) nights.push(night);
  }
  return nights;
}

/** What of a meeting lies outside disjoint, sorted hours; those far from it are not looked at. */
function gapsIn(open: readonly Interval[], meeting: Interval): Interval[] {
  const outside: Interval[] = [];
  let from = meeting.start;
  for (let k = firstEndingAfter(open, meeting.start); k < open.length; k++) {
    const shift = open[k]!;
    if (shift.start >= meeting.end) break;
    if (shift.start > from) outside.push({ start: from, end: shift.start });
    from = shift.end;
  }
  if (from < meeting.end) outside.push({ start: from, end: meeting.end });
  return outside;
}

/**
 * What a meeting's minutes outside somebody's hours weigh together: in a break as many as they are, before
 * and after a day more with each hour that they are away from it, and three times as much at night. So that
 * one very early hour does not come before two that are shared.
 * @param days the hours with their breaks, as `overBreaks` gives them
 */
export function outsideMinutes(
  { open, days }: { open: readonly Interval[]; days: readonly Interval[] },
  meeting: Interval,
  table: ZoneTable,
): number {
  let weight = 0;
  for (const span of gapsIn(open, meeting)) {
    const next = firstEndingAfter(days, span.start);
    const isBreak = next < days.length && days[next]!.start <= span.start;
    if (isBreak) {
      weight += span.end - span.start;
      continue;
    }
    // A gap of the hours lies in a break or between two days, never in both.
    const since = days[next - 1]?.end ?? Number.NEGATIVE_INFINITY;
    const until = days[next]?.start ?? Number.POSITIVE_INFINITY;
    weight += weightBetween(span, since, until);
    for (const night of nightsIn(span, table))
      weight += (NIGHT_TIMES - 1) * weightBetween(night, since, until);
  }
  return weight / MINUTE;
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
  const first = Math.floor(toLocal(table, meeting.start) / DAY) * DAY + 12 * HOUR;
  const end = toLocal(table, meeting.end);
  let minutes = 0;
  for (let noon = first; noon < end; noon += DAY) {
    // As instants: the clock may change between the start and noon.
    const from = toInstant(table, noon);
    minutes +=
      Math.max(0, Math.min(meeting.end, from + HOUR) - Math.max(meeting.start, from)) / MINUTE;
  }
  return minutes;
}
