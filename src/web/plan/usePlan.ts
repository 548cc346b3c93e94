import { useCallback, useMemo, useState } from 'react';
import type { CreateEventRequest } from '../../contract/events.ts';
import { usualLead, type Wishes } from '../../core/planner/wishes.ts';
import { clip, contains, DAY, MINUTE, type Interval } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay, weekdayOf } from '../../core/time/wall.ts';
import { useMe, useNow, usePreferences } from '../client/index.ts';
import {
  required,
  type EventToMove,
  type LineUpEntry,
  type Member,
  useLineUpData,
} from '../lineUp/index.ts';
import { usePlanAddress } from './usePlanAddress.ts';

const QUARTER = 15 * MINUTE;
const WEEK = 7 * DAY;
/** What the server answers at most. */
const LONGEST = 199 * DAY;
const SHORTEST_MINUTES = 5;

/** The next days from a date on, itself included: those on which I work, or all. */
function daysFrom(from: string, count: number, works: (date: string) => boolean): string[] {
  const days: string[] = [];
  for (let date = from; days.length < count; date = addDays(date, 1))
    if (works(date)) days.push(date);
  return days;
}

/** A meeting of mine that makes room: where it goes, and who is told of it. */
export interface MakingRoom extends EventToMove {
  title: string;
  to: Interval;
  told: number;
  request: NonNullable<CreateEventRequest['moving']>[number];
}

/** The plan in the address, the busy times it needs, and what the planner is asked. */
export function usePlan() {
  const me = useMe();
  const now = useNow();
  const { hours, defaultMinutes } = usePreferences();
  const { asked, set, note, restore } = usePlanAddress();
  const { dayCount, allDays, repeating, eventId, occurrence, at } = asked;
  const today = dateAt(now, me.zone);
  const from = asked.from ?? today;
  const minutes = asked.minutes ?? Math.max(defaultMinutes, SHORTEST_MINUTES);
  const moving = useMemo(() => (eventId ? { eventId, occurrence } : null), [eventId, occurrence]);
  // What makes room is not in the way; it is moved with what is sent.
  const [makingRoom, setMakingRoom] = useState<MakingRoom | null>(null);
  const aside = moving ?? makingRoom;

  const lineUp = useMemo(() => {
    const chosen = asked.lineUp ?? [];
    return chosen.some((one) => one.id === me.id) ? chosen : [required(me.id), ...chosen];
  }, [asked.lineUp, me.id]);

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
  const { data, read, error, retry, readAgain } = useLineUpData(lineUp, known, me.zone, aside);
  // Nothing is asked of days that have not been read.
  const searched = useMemo(() => (read ? clip(window, read) : null), [window, read]);

  const members = useMemo<Member[]>(() => {
    const byId = new Map(data.members.map((member) => [member.id, member]));
    return lineUp.flatMap(({ id, role, setAside }) => {
      const member = byId.get(id);
      return member ? [{ ...member, role, setAside }] : [];
    });
  }, [lineUp, data.members]);

  const people = members.filter((one) => one.kind === 'person' && !one.setAside).length;
  const leadMinutes = asked.leadMinutes ?? usualLead(people);
  // A quarter hour's step, so that not every tick of the clock is a question of its own.
  const asOf = Math.floor(now / QUARTER) * QUARTER;
  const startable = Math.ceil((now + leadMinutes * MINUTE) / QUARTER) * QUARTER;
  const { rule, places, features, roomText, withoutRoom } = asked;
  const { between, stretchMinutes, stretches, tentativeIsFree, unknown, leastBad } = asked;
  const [betweenFrom, betweenTo] = [between?.from ?? null, between?.to ?? null];
  const wishes = useMemo<Wishes>(
    () => ({
      window: searched ?? window,
      notBefore: startable,
      now: asOf,
      lengthMinutes: minutes,
      between:
        betweenFrom === null || betweenTo === null ? null : { from: betweenFrom, to: betweenTo },
      stepMinutes: 15,
      rule,
      places,
      rooms: { features, text: roomText, without: withoutRoom },
      stretchMinutes,
      stretches,
      tentativeIsFree,
      unknown,
      leastBad,
      zone: me.zone,
      limit: 10,
    }),
    [
      searched,
      window,
      startable,
      asOf,
      betweenFrom,
      betweenTo,
      minutes,
      rule,
      places,
      features,
      roomText,
      withoutRoom,
      stretchMinutes,
      stretches,
      tentativeIsFree,
      unknown,
      leastBad,
      me.zone,
    ],
  );

  const setLineUp = useCallback((next: readonly LineUpEntry[]) => set({ lineUp: next }), [set]);
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
    error,
    retry,
    readAgain,
    data,
    read,
    searched,
    lineUp,
    members,
    wishes,
    dates,
    leadMinutes,
    window,
    known,
    minutes,
    dayCount,
    allDays,
    shows,
    repeating,
    moving,
    makingRoom,
    setMakingRoom,
    chosen,
    /** Whether everybody's time is read where the chosen one lies. */
    isChosenRead: chosen !== null && read !== null && contains(read, chosen),
    asked,
    set,
    note,
    restore,
    setLineUp,
    choose,
    from,
  };
}

export type Plan = ReturnType<typeof usePlan>;
