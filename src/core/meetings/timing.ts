import { firstOccurrence } from '../recurrence/expand.ts';
import { parseRule, RuleError } from '../recurrence/rule.ts';
import type { EventTiming } from '../recurrence/series.ts';
import { invalid } from '../refusal.ts';
import { resolveSpan, type ResolvedSpan } from '../time/eventTimes.ts';
import { formatDay } from '../time/format.ts';
import { daysBetween, type Fold, type WallTime } from '../time/wall.ts';

const LONGEST_DAYS = 62;

/** Times as somebody asks for them. */
export interface AskedTimes {
  startsAt: WallTime;
  endsAt: WallTime;
  zone: string;
  /** The zone in which `endsAt` is read, where it is another one. */
  endZone: string | null;
  fold: Fold;
  /** Both times are then midnights. */
  allDay: boolean;
}

/** A timing with what had to be decided on the way. */
export interface ReadTiming {
  timing: EventTiming;
  endZone: string | null;
  span: ResolvedSpan;
}

/**
 * Reads the times of an event.
 * @throws Refusal when the end does not come after the start, or lies more than 62 days behind it
 */
export function readTiming(times: AskedTimes, field = 'times'): ReadTiming {
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
 * @throws Refusal when the rule names none
 */
export function beginSeries(
  timing: EventTiming,
  { rule }: { rule: string },
): { timing: EventTiming; notes: string[] } {
  return namingField('repeats.rule', () => {
    const startsAt = firstOccurrence(parseRule(rule), timing.startsAt);
    const day = formatDay(Date.parse(`${startsAt}Z`), 'UTC');
    return {
      timing: { ...timing, startsAt },
      notes: startsAt === timing.startsAt ? [] : [`The first date that the rule names is ${day}.`],
    };
  });
}

/** Runs `work`; a rule that cannot be used is refused by the name of `field`. */
export function namingField<T>(field: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof RuleError) throw invalid([{ field, message: error.message }]);
    throw error;
  }
}
