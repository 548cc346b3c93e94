import { useState } from 'react';
import { formatTimeOfDay, parseTimeOfDay } from '../../core/time/typedTime.ts';
import { addDays, daysBetween, isDate, wallTimeAt } from '../../core/time/wall.ts';

/** Times of an event as they stand in its form. */
export interface TypedTimes {
  date: string;
  start: string;
  end: string;
  allDay: boolean;
  /** The day of the end; of whole days the last one, itself included. */
  lastDate: string;
  zone: string;
  /** The zone in which the end is read; null for the same. */
  endZone: string | null;
}

export const typedFrom = (
  start: number,
  end: number,
  zone: string,
  allDay = false,
  endZone: string | null = null,
): TypedTimes => {
  const from = wallTimeAt(start, zone);
  const to = wallTimeAt(end, endZone ?? zone);
  return {
    date: from.slice(0, 10),
    start: from.slice(11),
    end: to.slice(11),
    allDay,
    lastDate: allDay ? addDays(to.slice(0, 10), -1) : to.slice(0, 10),
    zone,
    endZone,
  };
};

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

/**
 * What was typed as times of an event, or what is wrong with it. An end before the start on the
 * same day is the next day's.
 * @param now minutes after midnight at present, for times such as “in 20 min”
 */
export function readTimes(typed: TypedTimes, now?: number): ReadTimes {
  const { date, lastDate, zone, endZone } = typed;
  const errors: ReadTimes['errors'] = {};
  if (!isDate(date)) errors.date = 'must be a day';
  if (!isDate(lastDate) || lastDate < date) errors.end = 'must not be before the first day';
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
  // In another zone the end may well show an earlier time.
  const overnight = lastDate === date && end <= start && endZone === null;
  return {
    errors,
    times: {
      startsAt: `${date}T${formatTimeOfDay(start)}`,
      endsAt: `${overnight ? addDays(date, 1) : lastDate}T${formatTimeOfDay(end)}`,
      zone,
      endZone,
      allDay: false,
    },
  };
}

/** The times after a part of them was typed: a start that moves takes the end along. */
export function retyped(before: TypedTimes, part: Partial<TypedTimes>): TypedTimes {
  const after = { ...before, ...part };
  if (part.date !== undefined && part.lastDate === undefined && isDate(part.date)) {
    if (isDate(before.date) && isDate(before.lastDate)) {
      after.lastDate = addDays(part.date, Math.max(0, daysBetween(before.date, before.lastDate)));
    } else after.lastDate = part.date;
  }
  if (part.start === undefined) return after;
  const was = parseTimeOfDay(before.start);
  const end = parseTimeOfDay(before.end);
  const now = parseTimeOfDay(part.start);
  if (was === null || end === null || now === null || !isDate(before.lastDate)) return after;
  const days = isDate(before.date) ? daysBetween(before.date, before.lastDate) : 0;
  const overnight = days === 0 && end <= was ? 1440 : 0;
  const moved = now + (days * 1440 + overnight + end - was);
  after.end = formatTimeOfDay(((moved % 1440) + 1440) % 1440);
  after.lastDate = addDays(after.date, Math.floor(moved / 1440));
  return after;
}

/** Times as typed; moving the start keeps the length. */
export function useTyped(initial: TypedTimes) {
  const [typed, setTyped] = useState(initial);
  const change = (part: Partial<TypedTimes>) => setTyped((before) => retyped(before, part));
  return { typed, change, setTyped };
}
