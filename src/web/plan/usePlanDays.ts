import { useCallback, useMemo } from 'react';
import { DAY, MINUTE, type Interval } from '../../core/time/interval.ts';
import { addDays, startOfDay, weekdayOf } from '../../core/time/wall.ts';
import { usePreferences } from '../client/index.ts';
import type { PlanAddress } from '../lineUp/index.ts';

const WEEK = 7 * DAY;
/** No shorter than a break. */
const BEFORE = 15 * MINUTE;
/** What the server answers at most. */
const LONGEST = 199 * DAY;

/** The next days from a date on, itself included: those on which I work, or all. */
function daysFrom(from: string, count: number, works: (date: string) => boolean): string[] {
  const days: string[] = [];
  for (let date = from; days.length < count; date = addDays(date, 1))
    if (works(date)) days.push(date);
  return days;
}

/** The days that are looked at: those on which I work, or all, from a date on. */
export function usePlanDays(
  { dayCount, allDays }: Pick<PlanAddress, 'dayCount' | 'allDays'>,
  from: string,
  zone: string,
) {
  const { hours } = usePreferences();
  /** Whether a day is one of those looked at. */
  const shows = useCallback(
    (date: string) =>
      allDays ||
      hours.every((shifts) => shifts.length === 0) ||
      hours[weekdayOf(date) - 1]!.length > 0,
    [allDays, hours],
  );
  const dates = useMemo(() => daysFrom(from, dayCount, shows), [from, dayCount, shows]);
  const window = useMemo<Interval>(
    () => ({
      start: startOfDay(dates[0]!, zone),
      end: startOfDay(addDays(dates.at(-1)!, 1), zone),
    }),
    [dates, zone],
  );
  return { shows, dates, window };
}

/**
 * The span of which busy times are asked, and whether the chosen time lies in it: a week more than is
 * shown tells what a look further would find, a series reaches further still, and what is said of the
 * chosen time must be known too, also while other days are looked at.
 */
export function knownFrom(
  window: Interval,
  repeating: PlanAddress['repeating'],
  chosen: Interval | null,
): { known: Interval; isChosenReachable: boolean } {
  const span = repeating ? repeating.count * repeating.everyWeeks * WEEK : 0;
  const end = Math.min(
    Math.max(window.end + WEEK, window.start + span + WEEK),
    window.start + LONGEST,
  );
  // What stands right before the window leaves no break either.
  const first = window.start - BEFORE;
  const hull = {
    start: Math.min(first, chosen?.start ?? first),
    end: Math.max(end, chosen?.end ?? end),
  };
  const isChosenReachable = hull.end - hull.start <= LONGEST;
  return {
    known: isChosenReachable ? hull : { start: first, end },
    isChosenReachable,
  };
}
