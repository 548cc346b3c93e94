import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { WaitingInvitation } from '../../contract/invitations.ts';
import { answerTo } from '../client/index.ts';

/** Where an invitation is looked at, be it somebody's for whom I act. */
export function invitationAddress({
  eventId,
  occurrence,
  for: whom,
}: Pick<WaitingInvitation, 'eventId' | 'occurrence' | 'for'>): string {
  const query = new URLSearchParams({
    ...(occurrence && { occurrence }),
    ...(whom && { for: String(whom.id) }),
  }).toString();
  return `/invitations/${eventId}${query && `?${query}`}`;
}

/** Invitations that I have not answered, soonest first. */
export const useNews = () => useQuery(answerTo('GET /api/invitations'));

/** The first few meetings that I organize, those that wait for answers first, and how many there are. */
export const useFirstReplies = (most: number) =>
  useQuery(answerTo('GET /api/replies', { query: { limit: most } }));

/** The answers to one meeting that I organize, once it is known which; null where there are none. */
export const useRepliesTo = (eventId: string | null) =>
  useQuery({
    ...answerTo('GET /api/replies', { query: { event: eventId ?? undefined } }),
    select: ({ meetings }) => meetings[0] ?? null,
    enabled: eventId !== null,
    placeholderData: keepPreviousData,
  });
