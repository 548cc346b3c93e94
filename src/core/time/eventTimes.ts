import { formatLongDay, formatOffset, zoneCity } from './format.ts';
import { resolveWallTime, startOfDay, type Fold, type WallTime } from './wall.ts';
import type { Interval } from './interval.ts';

export interface WallSpan {
  startsAt: WallTime;
  endsAt: WallTime;
  zone: string;
  /** The zone in which the end is read, where it is another one. */
  endZone?: string | null;
  /** Which start is meant where a clock change repeats it. */
  fold: Fold;
}

export interface ResolvedSpan extends Interval {
  /** The start as the clock shows it; differs from what was asked where that time is skipped. */
  startsAt: WallTime;
  lengthMinutes: number;
  /** What a clock change makes of the times, in sentences. */
  notes: string[];
}

/**
 * The instants of a span given in wall time, and what had to be decided on the way.
 * A repeated end is the one of the same fold as the start, or the later one if that would come
 * before the start. The end may not come after the start: callers check `start < end`.
 * @throws RangeError when a wall time or the zone is not valid
 */
export function resolveSpan({ startsAt, endsAt, zone, endZone, fold }: WallSpan): ResolvedSpan {
  const zoneOfEnd = endZone ?? zone;
  const start = resolveWallTime(startsAt, zone, fold);
  let end = resolveWallTime(endsAt, zoneOfEnd, start.kind === 'repeated' ? fold : 'earlier');
  if (end.kind === 'repeated' && end.instant <= start.instant) {
    end = resolveWallTime(endsAt, zoneOfEnd, 'later');
  }
  const notes: string[] = [];
  for (const [asked, resolved, its] of [
    [startsAt, start, zone],
    [endsAt, end, zoneOfEnd],
  ] as const) {
    if (resolved.kind === 'exact') continue;
    const day = formatLongDay(resolved.instant, its);
    const time = asked.slice(11);
    const city = zoneCity(its);
    if (resolved.kind === 'skipped') {
      notes.push(
        `On ${day} the clocks in ${city} go forward and skip ${time}; it is taken as ${resolved.wall.slice(11)}.`,
      );
    } else {
      const which = resolveWallTime(asked, its).instant === resolved.instant ? 'first' : 'second';
      notes.push(
        `On ${day} the clocks in ${city} go back and show ${time} twice; the ${which} one is meant (${formatOffset(resolved.instant, its)}).`,
      );
    }
  }
  return {
    start: start.instant,
    end: end.instant,
    startsAt: start.wall,
    lengthMinutes: (end.instant - start.instant) / 60_000,
    notes,
  };
}

/** The days between two wall times as they stand on a calendar in a zone, in instants [start, end). */
export const wholeDaysIn = (
  { startsAt, endsAt }: Pick<WallSpan, 'startsAt' | 'endsAt'>,
  zone: string,
): Interval => ({
  start: startOfDay(startsAt.slice(0, 10), zone),
  end: startOfDay(endsAt.slice(0, 10), zone),
});
