import type { DaysAround, DaysQuery } from '../../contract/invitations.ts';
import { ridge } from '../../core/planner/ridge.ts';
import { DAY, MINUTE } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay, weekdayOf, type WallTime } from '../../core/time/wall.ts';
import type { Viewer } from '../access/index.ts';
import { membersOf, readBusyTimes } from '../availability/index.ts';
import type { Database } from '../db/transaction.ts';
import { DAYS_SHOWN } from './limits.ts';

const SLOT = 15 * MINUTE;

/** A meeting, or one date of it, as what is left out of somebody's busy times. */
export const exceptOf = (eventId: string, occurrence: WallTime | null) => ({
  eventId,
  ...(occurrence !== null && { occurrence }),
});

/**
 * The working days around a meeting, or from a day on, with how many of its people are free in each
 * quarter hour, as if it were not there.
 * @param people whose time is counted, as far as the viewer may see it; null where nothing is shown
 */
export async function readDaysAround(
  db: Database,
  viewer: Viewer,
  {
    people,
    except,
    start,
    now,
    asked: { zone, from },
  }: {
    people: readonly number[] | null;
    /** The meeting, and the date of it. */
    except: { eventId: string; occurrence?: WallTime };
    /** When it is now. */
    start: number;
    now: number;
    asked: DaysQuery;
  },
): Promise<DaysAround> {
  const today = dateAt(now, zone);
  const first = from ?? dateAt(Math.max(start - DAY, now), zone);
  const dates = workingDays(first < today ? today : first);
  const window = {
    start: startOfDay(dates[0]!, zone),
    end: startOfDay(addDays(dates.at(-1)!, 1), zone),
  };
  const days = dates.map((date) => ({ date, start: startOfDay(date, zone), counts: null }));
  if (!people || people.length === 0) return { days, total: 0 };
  const { subjects } = await readBusyTimes(db, viewer, {
    subjects: [...people],
    from: window.start,
    to: window.end,
    except,
  });
  const known = membersOf(
    subjects.filter((one) => one.knowledge === 'known'),
    () => 'required',
  );
  if (known.length === 0) return { days, total: 0 };
  const counted = ridge(known, { window, tentativeIsFree: false });
  return {
    days: days.map((day) => {
      const end = startOfDay(addDays(day.date, 1), zone);
      const from = Math.round((day.start - window.start) / SLOT);
      const to = Math.round((end - window.start) / SLOT);
      return { ...day, counts: [...counted.people.slice(from, to)] };
    }),
    total: known.length,
  };
}

function workingDays(from: string): string[] {
  const dates: string[] = [];
  for (let date = from; dates.length < DAYS_SHOWN; date = addDays(date, 1))
    if (weekdayOf(date) <= 5) dates.push(date);
  return dates;
}
