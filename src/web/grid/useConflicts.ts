import { useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import type { BusyRequest } from '../../contract/availability.ts';
import { overlaps, type Interval } from '../../core/time/interval.ts';
import { useMe, callApi } from '../client/index.ts';
import { conflictWords, type KnownTime } from './conflictWords.ts';
import { nameOf, type GridItem, type Lane } from './gridItems.ts';

/**
 * Says what a new time of an item would run into: my own calendar at once, its people and places as
 * soon as their busy times have come.
 */
export function useConflicts(
  window: Interval,
  mine: readonly GridItem[],
  lanes: readonly Lane[] = [],
) {
  const me = useMe();
  const client = useQueryClient();
  const asked = useRef<{ key: string; known: readonly KnownTime[] } | null>(null);

  /** Fetches the busy times of whoever takes part in an item, without waiting for them. */
  const ask = (item: GridItem | null) => {
    asked.current = null;
    const needed = item?.mine && item.mine.attendeeCount + item.mine.resources.length > 1;
    if (!item?.eventId || !needed) return;
    const { key, eventId, recurrenceId } = item;
    void client
      .fetchQuery({
        queryKey: ['POST /api/availability/busy', eventId, recurrenceId, window.start, window.end],
        staleTime: 30_000,
        queryFn: async () => {
          const event = await callApi('GET /api/events/:id', { params: { id: eventId } });
          const ids = [
            ...event.attendees.flatMap((one) => (one.personId === null ? [] : [one.personId])),
            ...event.resources.map((one) => one.id),
          ].filter((id) => id !== me.id);
          if (ids.length === 0) return [];
          // What they keep free for this very thing is not in its way.
          const except = { eventId, ...(recurrenceId !== null && { occurrence: recurrenceId }) };
          const { start: from, end: to } = window;
          const request: BusyRequest = { subjects: ids, from, to, except };
          return (await callApi('POST /api/availability/busy', { body: request })).subjects;
        },
      })
      .then((known) => {
        asked.current = { key, known };
      })
      .catch(() => undefined);
  };

  const conflict = (item: GridItem | null, span: Interval): string => {
    const takes = (one: GridItem) => one.occupancy !== 'free' && overlaps(one, span);
    const own = mine.filter(
      (one) => !one.allDay && takes(one) && one.occurrenceId !== item?.occurrenceId,
    );
    const known = asked.current?.key === item?.key ? asked.current?.known : undefined;
    // What is shown of others is in the way of something new; of what is moved, its own people are.
    const shown = item ? [] : lanes.slice(1).filter((lane) => lane.items.some(takes));
    return conflictWords(
      span,
      own.map((one) => nameOf(one)),
      shown.map((lane) => lane.name),
      known ?? [],
    );
  };
  return { ask, conflict };
}
