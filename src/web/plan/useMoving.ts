import { useEffect } from 'react';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { dateAt } from '../../core/time/wall.ts';
import { required, type LineUpEntry } from '../lineUp/index.ts';
import type { Plan } from './usePlan.ts';
import { useEvent } from '../meetings/index.ts';

/** Who and what a meeting takes, as a line-up; another time may suit those who declined. */
const lineUpOf = (event: EventDetail, myId: number): LineUpEntry[] => [
  // Whoever organizes it comes, too, where somebody else looks for the time.
  ...(event.organizer.id !== null && event.organizer.id !== myId
    ? [required(event.organizer.id)]
    : []),
  ...event.attendees
    .filter((one) => one.role !== 'organizer')
    .map(({ personId, email, role }): LineUpEntry => {
      const asked = {
        role: role === 'optional' ? ('optional' as const) : ('required' as const),
        setAside: false,
      };
      return personId === null ? { id: -1, email, ...asked } : { id: personId, ...asked };
    }),
  ...event.resources.map((one): LineUpEntry => ({ id: one.id, role: 'required', setAside: false })),
];

/** The meeting that a plan gives a new time. */
export interface Moving {
  event: EventDetail | null;
  /** Until it is read and fills the plan, nothing is known of the day that a typed time would be on. */
  isAwaited: boolean;
  error: unknown;
  retry: () => void;
}

/** The meeting that is given a new time; its people, places and length fill the plan once. */
export function useMoving({
  moving,
  set,
  asked,
  me,
  today,
}: Pick<Plan, 'moving' | 'set' | 'asked' | 'me' | 'today'>): Moving {
  const query = useEvent(moving?.eventId ?? '', moving?.occurrence ?? null, moving !== null);
  const event = moving ? (query.data ?? null) : null;
  const filled = asked.lineUp !== null;
  const chosenAt = asked.at;
  useEffect(() => {
    if (!event || filled) return;
    const date = dateAt(event.start, me.zone);
    set({
      lineUp: lineUpOf(event, me.id),
      minutes: Math.round((event.end - event.start) / MINUTE),
      // The days stay with a time that is chosen already.
      ...(!chosenAt && { from: date > today ? date : null }),
    });
  }, [event, filled, set, me.id, me.zone, today, chosenAt]);
  return {
    event,
    isAwaited: moving !== null && (event === null || !filled),
    error: moving && !event ? query.error : null,
    retry: () => void query.refetch(),
  };
}
