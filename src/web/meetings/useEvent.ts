import { useQuery } from '@tanstack/react-query';
import { answerTo, useShown } from '../client/index.ts';

/** The address of an event's own page. */
export const eventAddress = (id: string, occurrence: string | null): string =>
  `/events/${id}${occurrence ? `?occurrence=${occurrence}` : ''}`;

/** An event as whoever is signed in sees it, read again when it changes. */
export function useEvent(id: string, occurrence: string | null, enabled = true) {
  useShown(enabled ? [`meeting:${id}`] : []);
  return useQuery({
    enabled,
    ...answerTo('GET /api/events/:id', {
      params: { id },
      query: { occurrence: occurrence ?? undefined },
    }),
  });
}
