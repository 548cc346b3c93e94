import { useMutation } from '@tanstack/react-query';
import type { ReplyRequest } from '../../contract/invitations.ts';
import type { Reply } from '../../contract/eventDetail.ts';
import { callApi, errorText, offerUndo, undoable, useChanged } from '../client/index.ts';
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

interface Answering {
  reply: ReplyRequest['reply'];
  note?: string;
  /** Whether the organizer hears of it. */
  tell?: boolean;
}

/**
 * Sends my answer to an invitation, after those that were given before; everything that shows it follows, and it
 * is taken back by undo.
 * @param before what was answered until now, as undo gives it back
 */
export function useAnswer(
  { eventId, occurrence, organizer, covers, for: whom }: InvitationRef,
  before: { reply: Reply; note?: string } = { reply: 'needs-action' },
) {
  const changed = useChanged();
  const whose = whom ? `${whom.name}’s` : 'your';
  const refresh = () => changed('calendar', 'meeting');
  const send = ({ reply, note = '', tell = true }: Answering) =>
    callApi('POST /api/invitations/:id/reply', {
      params: { id: eventId },
      body: {
        ...{ reply, note, tell },
        ...(occurrence && { occurrence }),
        ...(whom && { for: whom.id }),
      },
    });
  const said = ({ reply, tell = true }: Answering) =>
    `${tell ? `${organizer} sees ${whose} answer` : `${whose[0]!.toUpperCase()}${whose.slice(1)} answer`}: ${REPLY_WORDS[reply]}${covers ? COVERED[covers] : ''}${tell ? '' : `, without telling ${organizer}`}.`;
  return useMutation({
    // One after the other, however fast they are given: the last one counts.
    scope: { id: `answer ${eventId}` },
    mutationFn: async (answering: Answering) => {
      const { reply, note = '' } = before;
      await undoable(send(answering));
      offerUndo(said(answering), async () => {
        try {
          await send({ reply, note, tell: answering.tell ?? true });
          tellUser(
            reply === 'needs-action'
              ? `Taken back: ${whom ? `${whom.name} has` : 'you have'} not answered.`
              : `Taken back: ${whose} answer is ${REPLY_WORDS[reply]} as before.`,
          );
        } catch (error) {
          tellUser(errorText(error));
        }
        await refresh();
      });
      await refresh();
    },
  });
}
