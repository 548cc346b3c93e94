import { useMutation } from '@tanstack/react-query';
import type { ReplyRequest } from '../../contract/invitations.ts';
import { callApi, useChanged } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';
import type { Covers } from './coverage.ts';
import { REPLY_WORDS } from './replyWords.tsx';

/** What is answered: a meeting, or one date of a series. */
export interface InvitationRef {
  eventId: string;
  /** The one date that the answer is for; null for all of it. */
  occurrence: string | null;
  organizer: string;
  /** Whose answer it is, where I act for them. */
  for?: { id: number; name: string } | null;
  /** Of a series, whether it is for all its dates or for the one; it is then said. */
  covers?: Covers;
}

const COVERED: Record<Covers, string> = { all: ', for all dates', one: ', for this date alone' };

/** Sends my answer to an invitation; everything that shows it follows. */
export function useAnswer({ eventId, occurrence, organizer, covers, for: whom }: InvitationRef) {
  const changed = useChanged();
  const whose = whom ? `${whom.name}’s` : 'your';
  return useMutation({
    mutationFn: async ({
      reply,
      note = '',
      tell = true,
    }: {
      reply: ReplyRequest['reply'];
      note?: string;
      /** Whether the organizer hears of it. */
      tell?: boolean;
    }) => {
      await callApi('POST /api/invitations/:id/reply', {
        params: { id: eventId },
        body: {
          reply,
          note,
          tell,
          ...(occurrence && { occurrence }),
          ...(whom && { for: whom.id }),
        },
      });
      tellUser(
        `${tell ? `${organizer} sees ${whose} answer` : `${whose[0]!.toUpperCase()}${whose.slice(1)} answer`}: ${REPLY_WORDS[reply]}${covers ? COVERED[covers] : ''}${tell ? '' : `, without telling ${organizer}`}.`,
      );
      await changed('calendar', 'meeting');
    },
  });
}
