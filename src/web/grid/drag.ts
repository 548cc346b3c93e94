import { MINUTE, type Interval } from '../../core/time/interval.ts';
import {
  addDays,
  dateAt,
  daysBetween,
  startOfDay,
  wallTimeAt,
  resolveWallTime,
} from '../../core/time/wall.ts';

/** What is being done to a span: made anew, moved, or stretched at one end. */
export type Grip = 'create' | 'move' | 'start' | 'end';

export const SNAP_MINUTES = 15;

export interface Held extends Interval {
  allDay: boolean;
}

const snapped = (instant: number, zone: string): number => {
  // To the quarter hours of the zone's own clock, half-hour zones included.
  const wall = wallTimeAt(instant, zone);
  const over = (Number(wall.slice(14)) * MINUTE + (instant % MINUTE)) % (SNAP_MINUTES * MINUTE);
  return instant - over;
};

/**
 * The span that a grip makes of one, when the pointer is at an instant.
 * @param grabbed instant under the pointer when it was taken hold of
 * @param at instant under the pointer now
 */
export function draggedSpan(
  grip: Grip,
  held: Held,
  grabbed: number,
  at: number,
  zone: string,
): Held {
  const least = SNAP_MINUTES * MINUTE;
  switch (grip) {
    case 'create': {
      const [first, last] = [Math.min(grabbed, at), Math.max(grabbed, at)];
      const start = snapped(first, zone);
      return { start, end: snapped(last, zone) + least, allDay: false };
    }
    case 'move': {
      const length = held.allDay ? 60 * MINUTE : held.end - held.start;
      // What was whole days begins where it is put down.
      const start = snapped(held.allDay ? at : held.start + at - grabbed + least / 2, zone);
      return { start, end: start + length, allDay: false };
    }
    case 'start':
      return {
        start: Math.min(snapped(at + least / 2, zone), held.end - least),
        end: held.end,
        allDay: false,
      };
    case 'end':
      return {
        start: held.start,
        end: Math.max(snapped(at + least / 2, zone), held.start + least),
        allDay: false,
      };
  }
}

/** The whole days that a span becomes when it is put onto a date of the row above the hours. */
export function wholeDays(held: Held, grabbedDate: string, date: string, zone: string): Held {
  const first = held.allDay
    ? addDays(dateAt(held.start, zone), daysBetween(grabbedDate, date))
    : date;
  const days = held.allDay
    ? Math.max(1, daysBetween(dateAt(held.start, zone), dateAt(held.end, zone)))
    : 1;
  return {
    start: startOfDay(first, zone),
    end: startOfDay(addDays(first, days), zone),
    allDay: true,
  };
}

/** A span moved by minutes of its length or days of the calendar, by keys. */
export function nudged(
  held: Held,
  by: { minutes?: number; days?: number; endMinutes?: number },
  zone: string,
): Held {
  if (by.days) {
    const start = movedDays(held.start, by.days, zone);
    if (!held.allDay) return { ...held, start, end: start + held.end - held.start };
    return { ...held, start, end: movedDays(held.end, by.days, zone) };
  }
  if (held.allDay) {
    const days = Math.sign(by.endMinutes ?? 0);
    const end = days ? movedDays(held.end, days, zone) : held.end;
    return end > held.start ? { ...held, end } : held;
  }
  if (by.endMinutes) {
    const end = held.end + by.endMinutes * MINUTE;
    return end - held.start >= SNAP_MINUTES * MINUTE ? { ...held, end } : held;
  }
  const shift = (by.minutes ?? 0) * MINUTE;
  return { ...held, start: held.start + shift, end: held.end + shift };
}

function movedDays(instant: number, days: number, zone: string): number {
  const wall = wallTimeAt(instant, zone);
  return resolveWallTime(`${addDays(wall.slice(0, 10), days)}${wall.slice(10)}`, zone).instant;
}

/** Whole days from the row above turned into an hour at nine o'clock, and back. */
export function toggledAllDay(held: Held, zone: string): Held {
  const date = dateAt(held.start, zone);
  if (!held.allDay) return wholeDays(held, date, date, zone);
  const start = resolveWallTime(`${date}T09:00`, zone).instant;
  return { start, end: start + 60 * MINUTE, allDay: false };
}
