import { useCallback, useMemo } from 'react';
import type { Wishes } from '../../core/planner/wishes.ts';
import { DAY, MINUTE, type Interval } from '../../core/time/interval.ts';
import { addDays, dateAt, isDate, startOfDay, weekdayOf } from '../../core/time/wall.ts';
import { useMe, useNow, usePreferences } from '../app/session.ts';
import {
  readIds,
  readLineUp,
  readRepeating,
  readStretches,
  writeLineUp,
  type Asked,
} from './address.ts';
import { usePlanData, type Member } from './usePlanData.ts';
import { usePlanParams } from './usePlanParams.ts';

export type { Member } from './usePlanData.ts';

const USUAL_DAYS = 10;
export const FEWEST_DAYS = 5;
export const MOST_DAYS = 30;
const QUARTER = 15 * MINUTE;
const WEEK = 7 * DAY;
/** What the server answers at most. */
const LONGEST = 199 * DAY;

/** The next days from a date on, itself included: those on which I work, or all. */
function daysFrom(from: string, count: number, works: (date: string) => boolean): string[] {
  const days: string[] = [];
  for (let date = from; days.length < count; date = addDays(date, 1))
    if (works(date)) days.push(date);
  return days;
}

/** A whole number of the address, within bounds; the usual one where it is none. */
function within(text: string | null, usual: number, least: number, most: number): number {
  const asked = text === null || text.trim() === '' ? NaN : Number(text);
  return Math.min(Math.max(Math.round(Number.isFinite(asked) ? asked : usual), least), most);
}

/** The plan in the address, the busy times it needs, and what the planner is asked. */
export function usePlan() {
  const me = useMe();
  const now = useNow();
  const { hours, defaultMinutes } = usePreferences();
  const { params, set, restore } = usePlanParams();
  const today = dateAt(now, me.zone);
  const fromParam = params.get('from');
  const from = fromParam && isDate(fromParam) ? fromParam : today;
  const dayCount = within(params.get('days'), USUAL_DAYS, FEWEST_DAYS, MOST_DAYS);
  const allDays = params.get('all') === 'yes';
  const minutes = within(params.get('minutes'), Math.max(defaultMinutes, 5), 5, 7 * 1440);
  const repeatText = params.get('repeat');
  const repeating = useMemo(() => readRepeating(repeatText), [repeatText]);
  const withText = params.get('with');
  const at = Number(params.get('at')) || null;
  const eventId = params.get('event');
  const occurrence = params.get('occurrence');
  const moving = useMemo(() => (eventId ? { eventId, occurrence } : null), [eventId, occurrence]);

  const lineUp = useMemo(() => {
    const asked = readLineUp(withText);
    return asked.some((one) => one.id === me.id)
      ? asked
      : [{ id: me.id, role: 'required' as const, setAside: false }, ...asked];
  }, [withText, me.id]);

  /** Whether a day is one of those looked at. */
  const shows = useCallback(
    (date: string) =>
      allDays ||
      hours.every((shifts) => shifts.length === 0) ||
      hours[weekdayOf(date) - 1]!.length > 0,
    [allDays, hours],
  );
  const dates = useMemo(() => daysFrom(from, dayCount, shows), [from, dayCount, shows]);
  const window = useMemo<Interval>(
    () => ({
      start: startOfDay(dates[0]!, me.zone),
      end: startOfDay(addDays(dates.at(-1)!, 1), me.zone),
    }),
    [dates, me.zone],
  );
  const span = repeating ? repeating.count * repeating.everyWeeks * WEEK : 0;
  // A week more than is shown tells what a look further would find; a series reaches further still.
  const knownEnd = Math.min(
    Math.max(window.end + WEEK, window.start + span + WEEK),
    window.start + LONGEST,
  );
  // What is said of the chosen time must be known too, also while other days are looked at.
  const hull = at
    ? { start: Math.min(window.start, at), end: Math.max(knownEnd, at + minutes * MINUTE) }
    : { start: window.start, end: knownEnd };
  const reachable = hull.end - hull.start <= LONGEST;
  const knownStart = reachable ? hull.start : window.start;
  const knownTo = reachable ? hull.end : knownEnd;
  const known = useMemo<Interval>(
    () => ({ start: knownStart, end: knownTo }),
    [knownStart, knownTo],
  );
  const { data, busy: query } = usePlanData(lineUp, known, me.zone, moving);

  const members = useMemo<Member[]>(() => {
    const byId = new Map(data.members.map((member) => [member.id, member]));
    return lineUp.flatMap(({ id, role, setAside }) => {
      const member = byId.get(id);
      return member ? [{ ...member, role, setAside }] : [];
    });
  }, [lineUp, data.members]);

  const startable = Math.ceil(now / QUARTER) * QUARTER;
  const asked = params.toString();
  const wishes = useMemo<Wishes>(() => {
    const read = new URLSearchParams(asked);
    const places = read.get('places');
    return {
      window,
      notBefore: startable,
      lengthMinutes: minutes,
      stepMinutes: 15,
      rule: read.get('rule') === 'everyone' ? 'everyone' : 'required',
      places: places === 'fitting' || places === 'ignored' ? places : 'listed',
      rooms: {
        features: (read.get('features') ?? '').split(',').filter(Boolean),
        text: read.get('room') ?? '',
        without: readIds(read.get('noroom')),
      },
      stretchMinutes: within(read.get('stretch'), 60, 0, 720),
      stretches: readStretches(read.get('zones')),
      tentativeIsFree: read.get('tentative') === 'free',
      unknown: read.get('unknown') === 'ignored' ? 'ignored' : 'busy',
      leastBad: read.get('least') === 'bad',
      zone: me.zone,
      limit: 10,
    };
  }, [asked, window, startable, minutes, me.zone]);

  const setLineUp = useCallback(
    (next: readonly Asked[]) => set({ with: writeLineUp(next) }),
    [set],
  );
  const [firstDay, lastDay] = [dates[0]!, dates.at(-1)!];
  const choose = useCallback(
    (span: Interval) => {
      const day = dateAt(span.start, me.zone);
      set({
        at: span.start,
        minutes: Math.round((span.end - span.start) / MINUTE),
        // The days follow a time that is not among them.
        ...((day < firstDay || day > lastDay) && { from: day }),
      });
    },
    [set, me.zone, firstDay, lastDay],
  );
  const chosen = useMemo<Interval | null>(
    () => (at && reachable ? { start: at, end: at + minutes * MINUTE } : null),
    [at, minutes, reachable],
  );

  return {
    me,
    now,
    today,
    query,
    data,
    lineUp,
    members,
    wishes,
    dates,
    window,
    known,
    minutes,
    dayCount,
    allDays,
    shows,
    repeating,
    moving,
    chosen,
    params,
    set,
    restore,
    setLineUp,
    choose,
    from,
  };
}

export type Plan = ReturnType<typeof usePlan>;
