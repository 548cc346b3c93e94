import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { addDays, startOfDay } from '../../core/time/wall.ts';
import { clockChanges, offsetAt, zoneTable, type ZoneTable } from '../../core/time/zoneTable.ts';

/** A day of a zone as a column of the grid. */
export interface Day extends Interval {
  date: string;
  /** How its clock changes on that day, if it does. */
  change: { instant: number; minutes: number } | null;
}

/**
 * Where instants stand in a grid of days: by the clock on the wall, so that nine o'clock is at one
 * height in every column. An hour that a clock skips stays empty; an hour that it repeats takes
 * room for both, in every column alike.
 */
export interface Scale {
  days: Day[];
  /** Minutes by the scale of a whole day at which the top stands; 0 where nothing is left out. */
  from: number;
  /** Minutes from the top to the bottom: of a whole day 1440, and more where an hour comes twice. */
  height: number;
  /** After which minute of the day, and how long, room is made for a repeated time. */
  repeated: { after: number; minutes: number } | null;
  table: ZoneTable;
}

export function dayScale(dates: readonly string[], zone: string): Scale {
  const window = {
    start: startOfDay(dates[0]!, zone),
    end: startOfDay(addDays(dates.at(-1)!, 1), zone),
  };
  const table = zoneTable(zone, window);
  const days = dates.map((date): Day => {
    const day = { start: startOfDay(date, zone), end: startOfDay(addDays(date, 1), zone) };
    return { date, ...day, change: clockChanges(table, day)[0] ?? null };
  });
  const back = days.find((day) => day.change !== null && day.change.minutes < 0);
  const repeated = back
    ? {
        after: (back.change!.instant - back.start) / MINUTE,
        minutes: -back.change!.minutes,
      }
    : null;
  return { days, from: 0, height: 1440 + (repeated?.minutes ?? 0), repeated, table };
}

/** A scale of which only a part is shown. @param from, to minutes from the top of the whole */
export const partOf = (scale: Scale, from: number, to: number): Scale => ({
  ...scale,
  from,
  height: to - from,
});

const wallMinutes = (scale: Scale, day: Day, instant: number): number => {
  const offset = offsetAt(scale.table, Math.min(instant, day.end - 1));
  return (instant + offset - Date.parse(`${day.date}T00:00Z`)) / MINUTE;
};

/** Minutes from the top at which an instant stands in a day's column; outside it the nearer edge. */
export function topOf(scale: Scale, day: Day, instant: number): number {
  if (instant <= day.start) return 0;
  if (instant >= day.end) return scale.height;
  return Math.min(Math.max(wholeTopOf(scale, day, instant) - scale.from, 0), scale.height);
}

function wholeTopOf(scale: Scale, day: Day, instant: number): number {
  const { repeated } = scale;
  if (day.change && day.change.minutes < 0) return (instant - day.start) / MINUTE;
  const wall = wallMinutes(scale, day, instant);
  return repeated && wall >= repeated.after ? wall + repeated.minutes : wall;
}

/** The instant that stands at so many minutes from the top; in an hour that is not there, its end. */
export function instantAt(scale: Scale, day: Day, minutes: number): number {
  const { repeated } = scale;
  // A pixel may lie between two minutes; instants are whole milliseconds.
  const inside = scale.from + Math.round(Math.min(Math.max(minutes, 0), scale.height));
  if (day.change && day.change.minutes < 0) return day.start + inside * MINUTE;
  let wall = inside;
  if (repeated && wall >= repeated.after) {
    wall = Math.max(repeated.after, wall - repeated.minutes);
  }
  if (!day.change) return day.start + wall * MINUTE;
  const before = (day.change.instant - day.start) / MINUTE;
  if (wall < before) return day.start + wall * MINUTE;
  return day.start + Math.max(before, wall - day.change.minutes) * MINUTE;
}

/** The part of a column that has no time: the hour that the clock skips there, or room others need. */
export function emptyBand(
  scale: Scale,
  day: Day,
): { top: number; height: number; why: 'skipped' | 'elsewhere' } | null {
  if (day.change && day.change.minutes > 0) {
    const top = (day.change.instant - day.start) / MINUTE - scale.from;
    return { top, height: day.change.minutes, why: 'skipped' };
  }
  if (scale.repeated && !(day.change && day.change.minutes < 0)) {
    return {
      top: scale.repeated.after - scale.from,
      height: scale.repeated.minutes,
      why: 'elsewhere',
    };
  }
  return null;
}

/** The full hours down the side: minutes from the top, the hour, and whether it is the second such. */
export function hourMarks(scale: Scale): { top: number; hour: number; again: boolean }[] {
  const { repeated } = scale;
  const marks: { top: number; hour: number; again: boolean }[] = [];
  for (let hour = 0; hour < 24; hour++) {
    const wall = hour * 60;
    const after = repeated !== null && wall >= repeated.after;
    marks.push({ top: after ? wall + repeated.minutes : wall, hour, again: false });
    const twice =
      repeated !== null && wall >= repeated.after - repeated.minutes && wall < repeated.after;
    if (twice) marks.push({ top: wall + repeated.minutes, hour, again: true });
  }
  return marks
    .map((mark) => ({ ...mark, top: mark.top - scale.from }))
    .filter(({ top }) => top >= 0 && top <= scale.height)
    .sort((a, b) => a.top - b.top);
}
