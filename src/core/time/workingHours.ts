import { DAY, MINUTE, gaps, merge, type Interval } from './interval.ts';
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

/** What changes working hours on particular days, or for a particular question. */
export interface HoursChange {
  /** Minutes that every shift begins earlier; not into a day off. */
  early?: number;
  /** Minutes that every shift ends later; not into a day off. */
  late?: number;
  /**
   * Local midnights, in local milliseconds, of days off such as public holidays, with what of each is off: on a whole
   * day no shift begins, and of a part of one nobody works in that part.
   */
  daysOff?: ReadonlyMap<number, Shift>;
}

/** A whole day, as what of it is off. */
export const WHOLE_DAY: Shift = { start: 0, end: 1440 };
const isWhole = (part: Shift | undefined): boolean =>
  part !== undefined && part.start <= 0 && part.end >= 1440;

/** A public holiday, a company day, or a part of one, of a site. */
export interface Holiday {
  /** `2026-12-25`. */
  date: string;
  name: string;
  /** Minutes after midnight, half-open, that are off; all of the day where it is left out. */
  part?: Shift | undefined;
}

/** A day off as it is kept: what of it is off is said only where that is not all of it. */
export const holidayOf = ({
  date,
  name,
  start,
  end,
}: { date: string; name: string } & Shift): Holiday =>
  isWhole({ start, end }) ? { date, name } : { date, name, part: { start, end } };

/** Days off by their local midnights. */
export const daysOffOf = (holidays: readonly Holiday[]): Map<number, Shift> =>
  new Map(holidays.map(({ date, part }) => [Date.parse(`${date}T00:00Z`), part ?? WHOLE_DAY]));

/** Whether a day is off at a minute after its midnight. */
export const isOffAt = ({ part = WHOLE_DAY }: Holiday, minute: number): boolean =>
  part.start <= minute && minute < part.end;

/**
 * When someone works, as instants: each local day's shifts laid onto the zone's clock.
 * @returns disjoint, sorted intervals that touch `window` (not clipped to it)
 */
export function workingIntervals(
  hours: WorkingHours,
  table: ZoneTable,
  window: Interval,
  { early = 0, late = 0, daysOff }: HoursChange = {},
): Interval[] {
  const firstDay = Math.floor(toLocal(table, window.start) / DAY) * DAY - 2 * DAY;
  const lastDay = toLocal(table, window.end) + DAY;
  const shifts: Interval[] = [];
  const whole =
    daysOff && new Set([...daysOff].flatMap(([day, part]) => (isWhole(part) ? day : [])));
  for (let midnight = firstDay; midnight <= lastDay; midnight += DAY) {
    if (whole?.has(midnight)) continue;
    for (const shift of hours[weekdayIndex(midnight)] ?? []) {
      const own = {
        start: toInstant(table, midnight + shift.start * MINUTE),
        end: toInstant(table, midnight + shift.end * MINUTE),
      };
      const { start, end } = stretched(own, table, early, late, whole);
      if (end > window.start && start < window.end) shifts.push({ start, end });
    }
  }
  const off = [...(daysOff ?? [])].flatMap(([midnight, part]) =>
    isWhole(part) || midnight < firstDay || midnight > lastDay
      ? []
      : {
          start: toInstant(table, midnight + part.start * MINUTE),
          end: toInstant(table, midnight + part.end * MINUTE),
        },
  );
  return without(merge(shifts), off);
}

/** What is left of disjoint, sorted intervals. */
function without(shifts: Interval[], off: readonly Interval[]): Interval[] {
  if (off.length === 0) return shifts;
  const taken = merge(off);
  return shifts.flatMap((shift) => gaps(taken, shift));
}

/** A shift begun earlier and ended later, as far as that leaves days off alone. */
function stretched(
  own: Interval,
  table: ZoneTable,
  early: number,
  late: number,
  daysOff: ReadonlySet<number> | undefined,
) {
  let start = own.start - early * MINUTE;
  let end = own.end + late * MINUTE;
  if (!daysOff?.size) return { start, end };
  const midnightOf = (instant: number) => Math.floor(toLocal(table, instant) / DAY) * DAY;
  const firstDay = midnightOf(own.start);
  for (let day = firstDay - DAY; start < own.start && day >= midnightOf(start); day -= DAY)
    if (daysOff.has(day)) start = Math.min(own.start, toInstant(table, day + DAY));
  // A night shift may reach into a day off, but is not stretched there.
  const lastDay = midnightOf(own.end - 1);
  const isInDayOff = lastDay > firstDay && daysOff.has(lastDay);
  if (isInDayOff) return { start, end: own.end };
  for (let day = lastDay + DAY; end > own.end && day <= midnightOf(end - 1); day += DAY)
    if (daysOff.has(day)) end = Math.max(own.end, toInstant(table, day));
  return { start, end };
}
