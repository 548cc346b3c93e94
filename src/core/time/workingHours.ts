import { DAY, MINUTE, merge, type Interval } from './interval.ts';
import { toInstant, toLocal, type ZoneTable } from './zoneTable.ts';

/** Minutes after local midnight, half-open; `end` above 1440 runs into the next day (night work). */
export interface Shift {
  start: number;
  end: number;
}

/** Seven lists of shifts, Monday first. */
export type WorkingHours = readonly (readonly Shift[])[];

/** The same shift on each of the given ISO weekdays (1 Monday to 7 Sunday). */
export function weekOf(shift: Shift, weekdays: readonly number[] = [1, 2, 3, 4, 5]): WorkingHours {
  return Array.from({ length: 7 }, (_, index) => (weekdays.includes(index + 1) ? [shift] : []));
}

/** 0 for Monday to 6 for Sunday, of a local midnight in local milliseconds; 1970-01-01 was a Thursday. */
const weekdayIndex = (localMidnight: number): number => (((localMidnight / DAY + 3) % 7) + 7) % 7;

/**
 * When someone works, as instants: each local day's shifts laid onto the zone's clock.
 * @param widenMinutes minutes that every shift is stretched on both sides
 * @returns disjoint, sorted intervals that touch `window` (not clipped to it)
 */
export function workingIntervals(
  hours: WorkingHours,
  table: ZoneTable,
  window: Interval,
  widenMinutes = 0,
): Interval[] {
  const firstDay = Math.floor(toLocal(table, window.start) / DAY) * DAY - 2 * DAY;
  const lastDay = toLocal(table, window.end) + DAY;
  const widen = widenMinutes * MINUTE;
  const shifts: Interval[] = [];
  for (let midnight = firstDay; midnight <= lastDay; midnight += DAY) {
    for (const shift of hours[weekdayIndex(midnight)] ?? []) {
      const start = toInstant(table, midnight + shift.start * MINUTE) - widen;
      const end = toInstant(table, midnight + shift.end * MINUTE) + widen;
      if (end > window.start && start < window.end) shifts.push({ start, end });
    }
  }
  return merge(shifts);
}
