import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { ReplyRequest } from '../../contract/invitations.ts';
import { sendApi } from '../app/index.ts';
import { tellUser } from '../design/notices.ts';
import { REPLY_WORDS } from './replyWords.tsx';

/** What is answered: a meeting, or one date of a series. */
export interface Asked {
  eventId: string;
  /** The one date that the answer is for; null for all of it. */
  occurrence: string | null;
  organizer: string;
}

/** Sends my answer to an invitation; everything that shows it follows. */
export function useAnswer({ eventId, occurrence, organizer }: Asked) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ reply, note = '' }: { reply: ReplyRequest['reply']; note?: string }) => {
      await sendApi('POST', `/invitations/${eventId}/reply`, {
        reply,
        note,
        ...(occurrence && { occurrence }),
      });
      tellUser(`${organizer} sees your answer: ${REPLY_WORDS[reply]}.`);
      await Promise.all(
        ['invitations', 'calendar'].map((name) => client.invalidateQueries({ queryKey: [name] })),
      );
    },
  });
}
