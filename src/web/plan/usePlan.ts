import { useCallback, useMemo, useState } from 'react';
import type { CreateEventRequest } from '../../contract/events.ts';
import { othersThan } from '../../core/planner/lineUp.ts';
import { usualLead } from '../../core/planner/wishes.ts';
import { clip, contains, MINUTE, type Interval } from '../../core/time/interval.ts';
import { dateAt } from '../../core/time/wall.ts';
import { useMe, useNow, usePreferences } from '../client/index.ts';
import {
  required,
  type EventToMove,
  type LineUpEntry,
  type Member,
  useLineUpData,
} from '../lineUp/index.ts';
import { usePlanAddress } from './usePlanAddress.ts';
import { usePlanDays, knownFrom } from './usePlanDays.ts';
import { usePlanWishes } from './usePlanWishes.ts';

const SHORTEST_MINUTES = 5;

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
  const { defaultMinutes } = usePreferences();
  const { asked, set, addressOnly, restore } = usePlanAddress();
  const { dayCount, allDays, repeating, eventId, occurrence, at } = asked;
  const today = dateAt(now, me.zone);
  const from = asked.from ?? today;
  const minutes = asked.minutes ?? Math.max(defaultMinutes, SHORTEST_MINUTES);
  const moving = useMemo(() => (eventId ? { eventId, occurrence } : null), [eventId, occurrence]);
  // What makes room is not in the way; it is moved with what is sent.
  const [makingRoom, setMakingRoom] = useState<MakingRoom | null>(null);

  const lineUp = useMemo(() => {
    const chosen = asked.lineUp ?? [];
    return chosen.some((one) => one.id === me.id) ? chosen : [required(me.id), ...chosen];
  }, [asked.lineUp, me.id]);
  const { shows, dates, window } = usePlanDays(asked, from, me.zone);
  const time = at ? { start: at, end: at + minutes * MINUTE } : null;
  const { known: wanted, isChosenReachable } = knownFrom(window, repeating, time);
  const known = useMemo<Interval>(
    () => ({ start: wanted.start, end: wanted.end }),
    [wanted.start, wanted.end],
  );
  const { data, read, error, retry, readAgain } = useLineUpData(
    lineUp,
    known,
    me.zone,
    moving ?? makingRoom,
  );
  // Nothing is asked of days that have not been read.
  const searched = useMemo(() => (read ? clip(window, read) : null), [window, read]);

  const members = useMemo<Member[]>(() => {
    const byId = new Map(data.members.map((member) => [member.id, member]));
    return lineUp.flatMap(({ id, role, setAside }) => {
      const member = byId.get(id);
      return member ? [{ ...member, role, setAside }] : [];
    });
  }, [lineUp, data.members]);

  const leadMinutes = asked.leadMinutes ?? usualLead(othersThan(me.id, members));
  const wishes = usePlanWishes(asked, {
    window: searched ?? window,
    now,
    minutes,
    leadMinutes,
    me,
  });

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
    () => (at && isChosenReachable ? { start: at, end: at + minutes * MINUTE } : null),
    [at, minutes, isChosenReachable],
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
    addressOnly,
    restore,
    setLineUp,
    choose,
    from,
  };
}

export type Plan = ReturnType<typeof usePlan>;
