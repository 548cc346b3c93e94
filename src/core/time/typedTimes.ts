import { formatTimeOfDay, parseTimeOfDay } from './typedTime.ts';
import { addDays, daysBetween, isDate, wallTimeAt } from './wall.ts';

const DAY_MINUTES = 1440;
/** An end before the start is the next day's up to this length; beyond it, it is a slip of the hand. */
const LONGEST_NIGHT = 12 * 60;

/** Times of an event as they stand in its form, readable or half-typed. */
export interface TypedTimes {
  date: string;
  start: string;
  end: string;
  allDay: boolean;
  /** The day of the end where another than the first was chosen; of whole days the last one, itself included. */
  lastDate: string;
  zone: string;
  /** The zone in which the end is read; null for the same. */
  endZone: string | null;
  /** From start to end as the clocks show it, as it was last readable. Minutes. */
  lengthMinutes: number;
}

/** Where an end stands that follows a start by a length, in clock time. */
function placeEnd(date: string, start: number, lengthMinutes: number, endZone: string | null) {
  const end = start + lengthMinutes;
  const isNight = endZone === null && lengthMinutes <= LONGEST_NIGHT;
  return {
    end: formatTimeOfDay(((end % DAY_MINUTES) + DAY_MINUTES) % DAY_MINUTES),
    lastDate: isNight ? date : addDays(date, Math.floor(end / DAY_MINUTES)),
  };
}

const minutesOf = (wall: string): number =>
  Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14, 16));

/**
 * The times of something that is there, as its form shows them.
 * @param start epoch milliseconds
 * @param end epoch milliseconds, itself not belonging to it
 */
export function typedFrom(
  start: number,
  end: number,
  zone: string,
  allDay = false,
  endZone: string | null = null,
): TypedTimes {
  const from = wallTimeAt(start, zone);
  const to = wallTimeAt(end, endZone ?? zone);
  const date = from.slice(0, 10);
  const until = to.slice(0, 10);
  const lengthMinutes = daysBetween(date, until) * DAY_MINUTES + minutesOf(to) - minutesOf(from);
  return {
    date,
    start: from.slice(11),
    allDay,
    zone,
    endZone,
    lengthMinutes,
    ...(allDay
      ? { end: to.slice(11), lastDate: addDays(until, -1) }
      : placeEnd(date, minutesOf(from), lengthMinutes, endZone)),
  };
}

export interface ReadTimes {
  times?: {
    startsAt: string;
    endsAt: string;
    zone: string;
    endZone: string | null;
    allDay: boolean;
  };
  errors: { date?: string; start?: string; end?: string };
}

/** From start to end in clock time, in minutes; null where that is not after the start. */
function lengthOf(
  { date, lastDate, endZone }: Pick<TypedTimes, 'date' | 'lastDate' | 'endZone'>,
  start: number,
  end: number,
): number | null {
  const length = daysBetween(date, lastDate) * DAY_MINUTES + end - start;
  // In another zone the end may well show an earlier time.
  if (endZone !== null || length > 0) return length;
  const night = length + DAY_MINUTES;
  return lastDate === date && night <= LONGEST_NIGHT ? night : null;
}

/**
 * What was typed as times of an event, or what is wrong with it. An end before the start is the next
 * day's, if it is no more than 12 hours later.
 * @param now minutes after midnight at present, for times such as “in 20 min”
 */
export function readTimes(typed: TypedTimes, now?: number): ReadTimes {
  const { date, lastDate, zone, endZone } = typed;
  const errors: ReadTimes['errors'] = {};
  if (!isDate(date)) errors.date = 'must be a day such as 26 Nov';
  // Westwards a journey may end on the day before.
  else if (!isDate(lastDate) || lastDate < (endZone === null ? date : addDays(date, -1)))
    errors.end = 'must not be before the first day';
  if (typed.allDay) {
    if (errors.date || errors.end) return { errors };
    const endsAt = `${addDays(lastDate, 1)}T00:00`;
    return {
      errors,
      times: { startsAt: `${date}T00:00`, endsAt, zone, endZone: null, allDay: true },
    };
  }
  const start = parseTimeOfDay(typed.start, now);
  const end = parseTimeOfDay(typed.end, now);
  if (start === null) errors.start = 'type a time such as 10:45, 1045 or 10:45am';
  if (end === null) errors.end = 'type a time such as 11:30, 1130 or 11:30am';
  if (errors.date || errors.end || start === null || end === null) return { errors };
  const length = lengthOf(typed, start, end);
  if (length === null) {
    errors.end = 'is not after the start; if it ends on another day, say which';
    return { errors };
  }
  const until = addDays(date, Math.floor((start + length) / DAY_MINUTES));
  return {
    errors,
    times: {
      startsAt: `${date}T${formatTimeOfDay(start)}`,
      endsAt: `${until}T${formatTimeOfDay(end)}`,
      zone,
      endZone,
      allDay: false,
    },
  };
}

/**
 * The times after a part of them was typed: a start or a day that moves takes the end along. Text that
 * cannot be read yet moves nothing, and the length is the one that was last readable.
 */
export function retyped(before: TypedTimes, part: Partial<TypedTimes>): TypedTimes {
  const after = { ...before, ...part };
  if (part.date !== undefined && part.lastDate === undefined && isDate(part.date)) {
    const days =
      isDate(before.date) && isDate(before.lastDate)
        ? Math.max(after.endZone === null ? 0 : -1, daysBetween(before.date, before.lastDate))
        : 0;
    after.lastDate = addDays(part.date, days);
  }
  if (after.allDay || !isDate(after.date) || !isDate(after.lastDate)) return after;
  const start = parseTimeOfDay(after.start);
  if (part.start !== undefined) {
    return start === null
      ? after
      : { ...after, ...placeEnd(after.date, start, before.lengthMinutes, after.endZone) };
  }
  const end = parseTimeOfDay(after.end);
  const length = start === null || end === null ? null : lengthOf(after, start, end);
  return length === null ? after : { ...after, lengthMinutes: length };
}
