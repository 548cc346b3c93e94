import { useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import type { BusyRequest, BusyResponse } from '../../contract/availability.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { overlaps, type Interval } from '../../core/time/interval.ts';
import { readApi, sendApi, useMe } from '../app/index.ts';
import { nameOf, type GridItem, type Lane } from './gridItems.ts';

interface Others {
  key: string;
  subjects: { name: string; taken: Interval[]; barred: Interval[] }[];
}

const MOST_NAMED = 2;

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
  const asked = useRef<Others | null>(null);

  /** Fetches the busy times of whoever takes part in an item, without waiting for them. */
  const ask = (item: GridItem | null) => {
    asked.current = null;
    const needed = item?.mine && item.mine.attendeeCount + item.mine.resources.length > 1;
    if (!item?.eventId || !needed) return;
    const key = item.key;
    void client
      .fetchQuery({
        queryKey: ['calendar', 'busy', item.eventId, window.start, window.end],
        staleTime: 30_000,
        queryFn: async () => {
          const event = await readApi<EventDetail>(`/events/${item.eventId}`);
          const ids = [
            ...event.attendees.flatMap((one) => (one.personId === null ? [] : [one.personId])),
            ...event.resources.map((one) => one.id),
          ].filter((id) => id !== me.id);
          if (ids.length === 0) return [];
          const request: BusyRequest = { subjects: ids, from: window.start, to: window.end };
          return (await sendApi<BusyResponse>('POST', '/availability/busy', request)).subjects;
        },
      })
      .then((subjects) => {
        asked.current = {
          key,
          subjects: subjects.map(({ name, busy, changeovers }) => ({
            name,
            // What they keep free for this very thing is not in its way.
            taken: [...busy.filter((one) => one[2] !== 'barred'), ...changeovers]
              .map(spanOf)
              .filter((span) => !(span.start <= item.start && span.end >= item.end)),
            barred: busy.filter((one) => one[2] === 'barred').map(spanOf),
          })),
        };
      })
      .catch(() => undefined);
  };

  const conflict = (item: GridItem | null, span: Interval): string => {
    const own = mine.filter(
      (one) =>
        !one.allDay &&
        one.occupancy !== 'free' &&
        one.occurrenceId !== item?.occurrenceId &&
        overlaps(one, span),
    );
    const known = asked.current?.key === item?.key ? (asked.current?.subjects ?? []) : [];
    const within = (spans: readonly Interval[]) => spans.some((one) => overlaps(one, span));
    const taken = known.filter((one) => within(one.taken));
    const barred = known.filter((one) => within(one.barred) && !within(one.taken));
    // What is shown of others is in the way of something new; of what is moved, its own people are.
    const shown = item
      ? []
      : lanes
          .slice(1)
          .filter((lane) =>
            lane.items.some((one) => one.occupancy !== 'free' && overlaps(one, span)),
          );
    const said: string[] = [];
    if (own.length) said.push(`Overlaps ${named(own.map((one) => nameOf(one)))}.`);
    const others = [...taken, ...shown];
    if (others.length) {
      said.push(
        `${named(others.map((one) => one.name))} ${others.length === 1 ? 'is' : 'are'} taken.`,
      );
    }
    if (barred.length) said.push(`${named(barred.map((one) => one.name))} cannot be booked then.`);
    return said.join(' ');
  };
  return { ask, conflict };
}

const spanOf = ([start, end]: readonly [number, number, ...unknown[]]): Interval => ({
  start,
  end,
});

const named = (names: readonly string[]): string =>
  names.length <= MOST_NAMED
    ? names.join(' and ')
    : `${names.slice(0, MOST_NAMED).join(', ')} and ${names.length - MOST_NAMED} more`;
