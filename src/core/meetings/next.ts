import { happenings } from '../recurrence/series.ts';
import { DAY } from '../time/interval.ts';
import { isSeries, planOf, type Meeting } from './meeting.ts';
import type { WallTime } from '../time/wall.ts';

/** Further ahead than any rule of ours waits, but for those of leap days. */
const LOOK_AHEAD = 5 * 366 * DAY;
const STEPS = [40 * DAY, 400 * DAY, LOOK_AHEAD];

/**
 * The occurrence of a series that is next at an instant, by its place in the rule; null for what
 * happens once, and where none is to come.
 * @param now epoch milliseconds
 * @param ahead whether one that goes on at that instant is next, or the first that begins at it or after
 */
export function nextOccurrence(
  meeting: Meeting,
  now: number,
  ahead: 'not over' | 'not begun' = 'not over',
): WallTime | null {
  if (!isSeries(meeting)) return null;
  const plan = planOf(meeting);
  const start = now - 62 * DAY;
  for (const reach of STEPS) {
    const next = happenings(plan, { start, end: now + reach })
      .filter((one) => (ahead === 'not over' ? one.end > now : one.start >= now))
      .sort((a, b) => a.start - b.start)[0];
    if (next) return next.recurrenceId;
  }
  return null;
}
