import { DAY, MINUTE, type Interval } from '../time/interval.ts';
import { startOfDay } from '../time/wall.ts';
import { localAt } from '../time/zoneTable.ts';

/**
 * What the rules of a place ask of the length and the beginning of somebody's bookings, wherever they
 * lie; null is no bound. With `barredTime` it tells of any time whether the rules allow a booking then.
 */
export interface BookingTerms {
  shortestMinutes: number | null;
  longestMinutes: number | null;
  /** Bookings begin at, and last, whole multiples of it, counted from midnight on the place's clock. */
  stepMinutes: number | null;
  /** So long somebody may have it within a week from Monday to Sunday, on the place's clock. */
  weeklyMinutes: number | null;
  zone: string;
  weeks: readonly Week[];
}

/** A week on a place's clock, and how many of its minutes somebody has in other bookings. */
export interface Week extends Interval {
  had: number;
}

export type BrokenTerm =
  | { rule: 'too-short'; least: number }
  | { rule: 'too-long'; most: number }
  | { rule: 'off-step'; step: number }
  | { rule: 'too-much'; most: number; had: number };

/**
 * The weeks that a time touches, and what somebody has in them.
 * @param has their other bookings, own times
 */
export function weeksOf(span: Interval, has: readonly Interval[], zone: string): Week[] {
  const weeks: Week[] = [];
  const day = Math.floor(localAt(zone, span.start) / DAY);
  for (let monday = day - mondayIs(day); ; monday += 7) {
    const week = weekFrom(monday, zone);
    if (week.start >= span.end) return weeks;
    weeks.push({ ...week, had: has.reduce((sum, one) => sum + minutesIn(one, week), 0) });
  }
}

/** How many days ago it was Monday, of a day counted from 1 January 1970, a Thursday. */
const mondayIs = (day: number): number => (((day + 3) % 7) + 7) % 7;

/** The dates of a series ask for the same weeks again and again. */
const lately = new Map<string, Interval>();
const MOST_KEPT = 1_000;

/** The week from a Monday, counted in days from 1970, on the clock of a zone. */
function weekFrom(monday: number, zone: string): Interval {
  const key = `${zone} ${monday}`;
  let week = lately.get(key);
  if (!week) {
    if (lately.size >= MOST_KEPT) lately.clear();
    const date = (days: number) => new Date(days * DAY).toISOString().slice(0, 10);
    week = { start: startOfDay(date(monday), zone), end: startOfDay(date(monday + 7), zone) };
    lately.set(key, week);
  }
  return week;
}

/** What of its terms a length breaks, whenever the booking begins. */
export function brokenByLength(
  { shortestMinutes, longestMinutes, stepMinutes }: BookingTerms,
  minutes: number,
): BrokenTerm[] {
  const broken: BrokenTerm[] = [];
  if (shortestMinutes !== null && minutes < shortestMinutes)
    broken.push({ rule: 'too-short', least: shortestMinutes });
  if (longestMinutes !== null && minutes > longestMinutes)
    broken.push({ rule: 'too-long', most: longestMinutes });
  if (stepMinutes !== null && minutes % stepMinutes !== 0)
    broken.push({ rule: 'off-step', step: stepMinutes });
  return broken;
}

/** The shortest length, not less than a given one, that its terms allow; null where none is. Minutes. */
export function leastAllowed(terms: BookingTerms, minutes: number): number | null {
  const step = terms.stepMinutes ?? 1;
  const least = Math.ceil(Math.max(minutes, terms.shortestMinutes ?? 0) / step) * step;
  return brokenByLength(terms, least).length === 0 ? least : null;
}

/**
 * Which of its terms a booking would break, each once.
 * @param span the booking's own time, half-open, within the weeks of the terms
 */
export function brokenTerms(terms: BookingTerms, span: Interval): BrokenTerm[] {
  const { stepMinutes: step, weeklyMinutes, zone, weeks } = terms;
  const broken = brokenByLength(terms, (span.end - span.start) / MINUTE);
  const isOff = broken.some(({ rule }) => rule === 'off-step');
  if (step !== null && !isOff && minuteOfDay(span.start, zone) % step !== 0)
    broken.push({ rule: 'off-step', step });
  if (weeklyMinutes !== null) {
    const most = { all: 0, had: 0 };
    for (const week of weeks) {
      const more = minutesIn(span, week);
      if (more > 0 && week.had + more > most.all)
        Object.assign(most, { all: week.had + more, had: week.had });
    }
    if (most.all > weeklyMinutes)
      broken.push({ rule: 'too-much', most: weeklyMinutes, had: most.had });
  }
  return broken;
}

/** Whether a booking of that time keeps the terms; where there are none, every booking does. */
export const keepsTerms = (terms: BookingTerms | null | undefined, span: Interval): boolean =>
  !terms || brokenTerms(terms, span).length === 0;

/** Minutes after midnight that a clock shows. */
const minuteOfDay = (instant: number, zone: string): number =>
  (localAt(zone, instant) % DAY) / MINUTE;

const minutesIn = (one: Interval, week: Interval): number =>
  Math.max(0, Math.min(one.end, week.end) - Math.max(one.start, week.start)) / MINUTE;
