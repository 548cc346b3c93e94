import { Temporal } from 'temporal-polyfill';
import { RRuleTemporal } from 'rrule-temporal';
import type { Interval } from '../time/interval.ts';
import { resolveWallTime, type WallTime } from '../time/wall.ts';

export interface Series {
  /** Wall time of the first occurrence. */
  startsAt: WallTime;
  zone: string;
  lengthMinutes: number;
  /** An RFC 5545 RRULE value without the property name, such as `FREQ=WEEKLY;BYDAY=TU`. */
  rule: string;
  /** Wall times of occurrences that are left out (EXDATE). */
  except?: readonly WallTime[];
}

export interface SeriesOccurrence extends Interval {
  /** The wall time that names this occurrence for good (RECURRENCE-ID). */
  recurrenceId: WallTime;
}

/**
 * Every occurrence of a series that starts inside `window`.
 * Local times that a clock change skips are left out (RFC 5545 section 3.3.10).
 * @throws Error when the rule cannot be read
 */
export function expandSeries(series: Series, window: Interval): SeriesOccurrence[] {
  const except = new Set(series.except);
  const rule = new RRuleTemporal({
    rruleString: `RRULE:${series.rule}`,
    dtstart: Temporal.PlainDateTime.from(series.startsAt).toZonedDateTime(series.zone),
    tzid: series.zone,
  });
  const from = Temporal.Instant.fromEpochMilliseconds(window.start);
  const to = Temporal.Instant.fromEpochMilliseconds(window.end);
  return rule
    .between(from.toZonedDateTimeISO(series.zone), to.toZonedDateTimeISO(series.zone), true)
    .filter((time) => time.epochMilliseconds < window.end)
    .map((time) => {
      const recurrenceId = time
        .toPlainDateTime()
        .toString({ smallestUnit: 'minute', calendarName: 'never' });
      const start = resolveWallTime(recurrenceId, series.zone).instant;
      return { recurrenceId, start, end: start + series.lengthMinutes * 60_000 };
    })
    .filter((occurrence) => !except.has(occurrence.recurrenceId));
}
