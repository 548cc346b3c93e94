import type { Interval } from '../../core/time/interval.ts';
import { addDays, resolveWallTime, startOfDay } from '../../core/time/wall.ts';

export type Hours = readonly [from: number, to: number];

/** The part of a day between two hours of a zone's clock; 24 is the next midnight. */
export function dayWindow(date: string, zone: string, [from, to]: Hours): Interval {
  const at = (hour: number) =>
    hour === 24
      ? startOfDay(addDays(date, 1), zone)
      : hour === 0
        ? startOfDay(date, zone)
        : resolveWallTime(`${date}T${String(hour).padStart(2, '0')}:00`, zone).instant;
  return { start: at(from), end: at(to) };
}

export const inside = (instant: number, span: Interval): boolean =>
  instant >= span.start && instant < span.end;
