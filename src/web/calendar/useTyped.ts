import { useState } from 'react';
import { formatTimeOfDay, parseTimeOfDay } from '../../core/time/typedTime.ts';
import { addDays, isDate, wallTimeAt } from '../../core/time/wall.ts';

export interface TypedTimes {
  date: string;
  start: string;
  end: string;
  allDay: boolean;
  /** Last day of an all-day event, itself included. */
  lastDate: string;
}

export const typedFrom = (start: number, end: number, zone: string, allDay = false): TypedTimes => {
  const from = wallTimeAt(start, zone);
  const to = wallTimeAt(end, zone);
  return {
    date: from.slice(0, 10),
    start: from.slice(11),
    end: to.slice(11),
    allDay,
    lastDate: allDay ? addDays(to.slice(0, 10), -1) : from.slice(0, 10),
  };
};

export interface ReadTimes {
  times?: { startsAt: string; endsAt: string; zone: string; allDay: boolean };
  errors: { date?: string; start?: string; end?: string };
}

/** What was typed as times of an event, or what is wrong with it. An end before the start is next day's. */
export function readTimes(typed: TypedTimes, zone: string): ReadTimes {
  const errors: ReadTimes['errors'] = {};
  if (!isDate(typed.date)) errors.date = 'must be a day';
  if (typed.allDay) {
    if (!isDate(typed.lastDate) || typed.lastDate < typed.date)
      errors.end = 'must not be before the first day';
    if (errors.date || errors.end) return { errors };
    return {
      errors,
      times: {
        startsAt: `${typed.date}T00:00`,
        endsAt: `${addDays(typed.lastDate, 1)}T00:00`,
        zone,
        allDay: true,
      },
    };
  }
  const start = parseTimeOfDay(typed.start);
  const end = parseTimeOfDay(typed.end);
  if (start === null) errors.start = 'type a time such as 10:45, 1045 or 10:45am';
  if (end === null) errors.end = 'type a time such as 11:30, 1130 or 11:30am';
  if (errors.date || start === null || end === null) return { errors };
  const endDate = end > start ? typed.date : addDays(typed.date, 1);
  return {
    errors,
    times: {
      startsAt: `${typed.date}T${formatTimeOfDay(start)}`,
      endsAt: `${endDate}T${formatTimeOfDay(end)}`,
      zone,
      allDay: false,
    },
  };
}

/** Times as typed; moving the start keeps the length. */
export function useTyped(initial: TypedTimes) {
  const [typed, setTyped] = useState(initial);
  const change = (part: Partial<TypedTimes>) =>
    setTyped((before) => {
      const after = { ...before, ...part };
      const was = parseTimeOfDay(before.start);
      const end = parseTimeOfDay(before.end);
      const now = part.start === undefined ? null : parseTimeOfDay(part.start);
      if (was !== null && end !== null && now !== null) {
        after.end = formatTimeOfDay((((now + end - was) % 1440) + 1440) % 1440);
      }
      return after;
    });
  return { typed, change, setTyped };
}
