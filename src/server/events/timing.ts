import type { EventTimes, Repeats } from '../../contract/events.ts';
import { firstOccurrence } from '../../core/recurrence/expand.ts';
import { parseRule, RuleError } from '../../core/recurrence/rule.ts';
import type { EventTiming } from '../../core/recurrence/series.ts';
import { resolveSpan, type ResolvedSpan } from '../../core/time/eventTimes.ts';
import { formatDay } from '../../core/time/format.ts';
import { daysBetween } from '../../core/time/wall.ts';
import { invalid } from '../http/problem.ts';

const LONGEST_DAYS = 62;

/** An event's timing with what had to be decided on the way. */
export interface ReadTiming {
  timing: EventTiming;
  endZone: string | null;
  span: ResolvedSpan;
}

/**
 * Reads an event's times.
 * @throws Problem 400 when the end does not come after the start, or lies too far behind it
 */
export function readTimes(times: EventTimes, field = 'times'): ReadTiming {
  const span = resolveSpan(times);
  if (span.end <= span.start) {
    throw invalid([{ field: `${field}.endsAt`, message: `must be later than ${field}.startsAt` }]);
  }
  if (span.lengthMinutes > LONGEST_DAYS * 24 * 60) {
    throw invalid([
      { field: `${field}.endsAt`, message: `may be at most ${LONGEST_DAYS} days after the start` },
    ]);
  }
  const { startsAt, endsAt, zone, endZone, fold, allDay } = times;
  if (allDay && !(startsAt.endsWith('T00:00') && endsAt.endsWith('T00:00'))) {
    throw invalid([{ field: `${field}.allDay`, message: 'needs both times to be midnights' }]);
  }
  // Whole days are days, whatever a clock change makes of their hours.
  const lengthMinutes = allDay
    ? daysBetween(startsAt.slice(0, 10), endsAt.slice(0, 10)) * 1440
    : span.lengthMinutes;
  return {
    timing: { startsAt: allDay ? startsAt : span.startsAt, zone, fold, lengthMinutes, allDay },
    endZone: endZone !== null && endZone !== zone && !allDay ? endZone : null,
    span,
  };
}

/**
 * Lets a series begin with the first date its rule names (RFC 5545 section 3.8.5.3).
 * @throws Problem 400 when the rule names none, or occurrences would overlap the next ones
 */
export function beginSeries(
  timing: EventTiming,
  repeats: Pick<Repeats, 'rule'>,
): { timing: EventTiming; notes: string[] } {
  return naming('repeats.rule', () => {
    const rule = parseRule(repeats.rule);
    const startsAt = firstOccurrence(rule, timing.startsAt);
    const day = formatDay(Date.parse(`${startsAt}Z`), 'UTC');
    return {
      timing: { ...timing, startsAt },
      notes: startsAt === timing.startsAt ? [] : [`The first date that the rule names is ${day}.`],
    };
  });
}

/** Runs `work` and tells a rule that cannot be used as a problem of `field`. */
export function naming<T>(field: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof RuleError) throw invalid([{ field, message: error.message }]);
    throw error;
  }
}
