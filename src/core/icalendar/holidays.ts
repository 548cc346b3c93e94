import type ICAL from 'ical.js';
import { expandSeries } from '../recurrence/expand.ts';
import { addDays, daysBetween, isDate, startOfDay } from '../time/wall.ts';
import { plainLine, readCalendars } from './text.ts';

/** A day off. */
export interface Holiday {
  /** `2026-12-25`. */
  date: string;
  name: string;
}

/** What a calendar file says of days off. */
export interface HolidaysRead {
  /** Each day once, in their order. */
  holidays: Holiday[];
  /** Entries that were left aside, since they are no whole days, or repeat in a way that is not understood. */
  aside: number;
}

const LONGEST_NAME = 120;
const LONGEST_HOLIDAY_DAYS = 31;

/**
 * The whole days of a calendar file (RFC 5545: events whose DTSTART is a DATE), each day of those that last several,
 * and of those that repeat as often as they do in between.
 * @param span half-open: the first day that is wanted, and the first that is not
 * @throws Error with a sentence where it is no calendar
 */
export function holidaysIn(
  text: string,
  { first, end }: { first: string; end: string },
): HolidaysRead {
  const found = new Map<string, string>();
  let aside = 0;
  for (const calendar of readCalendars(text))
    for (const event of calendar.getAllSubcomponents('vevent')) {
      const days = daysOf(event, { first, end });
      if (days === null) aside++;
      const name = nameOf(event);
      for (const day of days ?? []) if (!found.has(day)) found.set(day, name);
    }
  return {
    holidays: [...found]
      .map(([date, name]) => ({ date, name }))
      .sort((a, b) => (a.date < b.date ? -1 : 1)),
    aside,
  };
}

const nameOf = (event: ICAL.Component): string =>
  plainLine(String(event.getFirstPropertyValue('summary') ?? ''))
    .slice(0, LONGEST_NAME)
    .trim() || 'Holiday';

/** A date as its value is written, `2026-12-25`; null where it is none. */
function dateOf(event: ICAL.Component, property: string): string | null {
  const text = String(event.getFirstPropertyValue(property) ?? '');
  return isDate(text) ? text : null;
}

/** The days of an event; null where it is no whole day, or cannot be read. */
function daysOf(
  event: ICAL.Component,
  { first, end }: { first: string; end: string },
): string[] | null {
  const begins = dateOf(event, 'dtstart');
  if (begins === null) return null;
  if (String(event.getFirstPropertyValue('status') ?? '').toUpperCase() === 'CANCELLED') return [];
  const until = dateOf(event, 'dtend');
  const length = until === null ? 1 : daysBetween(begins, until);
  if (length < 1 || length > LONGEST_HOLIDAY_DAYS) return null;
  const starts = startsOf(event, begins, { first, end });
  if (starts === null) return null;
  const except = new Set(
    event.getAllProperties('exdate').flatMap((one) => one.getValues().map(String)),
  );
  return starts
    .filter((day) => !except.has(day))
    .flatMap((day) => Array.from({ length }, (_, k) => addDays(day, k)))
    .filter((day) => day >= first && day < end);
}

/** On which days it begins, near the span; null where its rule is not understood. */
function startsOf(
  event: ICAL.Component,
  begins: string,
  { first, end }: { first: string; end: string },
): string[] | null {
  const rule = event.getFirstPropertyValue('rrule');
  if (rule === null) return [begins];
  const series = {
    ...{ startsAt: `${begins}T00:00`, zone: 'UTC', rule: String(rule) },
    ...{ lengthMinutes: 1440, allDay: true, except: [] },
  };
  const window = {
    start: startOfDay(addDays(first, -LONGEST_HOLIDAY_DAYS), 'UTC'),
    end: startOfDay(end, 'UTC'),
  };
  try {
    return expandSeries(series, window).map((one) => one.recurrenceId.slice(0, 10));
  } catch {
    return null;
  }
}
