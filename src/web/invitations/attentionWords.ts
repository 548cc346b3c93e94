import type { MeetingReplies } from '../../contract/invitations.ts';
import { counted } from '../../core/counted.ts';
import { attentionTo, type Attention } from '../../core/meetings/attention.ts';
import { listNames } from '../../core/planner/words.ts';
import { formatLength } from '../../core/time/format.ts';
import { DAY, HOUR, MINUTE } from '../../core/time/interval.ts';

/** How long ago, in the largest unit that is whole: `9 days`, `5 h`, `20 min`. */
export function lengthWords(milliseconds: number): string {
  if (milliseconds >= DAY) return counted(Math.floor(milliseconds / DAY), 'day');
  if (milliseconds >= HOUR) return `${Math.floor(milliseconds / HOUR)} h`;
  return formatLength(Math.max(MINUTE, Math.floor(milliseconds / MINUTE) * MINUTE));
}

const MOST_NAMED = 2;

function words(attention: Attention, now: number): string {
  const names = listNames(attention.names, MOST_NAMED);
  if (attention.kind === 'asks')
    return `${names} ${attention.names.length === 1 ? 'asks' : 'ask'} for another time`;
  if (attention.kind === 'declined') return `${names} declined, required`;
  if (attention.kind === 'soon') return `${names} silent, required, and it is soon`;
  return `${names} silent for ${lengthWords(now - attention.since)}`;
}

/** What of a meeting's answers its organizer should know first; `isGrave` where it needs them. */
export function stateWords(
  meeting: Pick<MeetingReplies, 'start' | 'replies'>,
  now: number,
): { text: string; isGrave: boolean } {
  const grave = attentionTo(meeting, now);
  if (grave.length > 0)
    return { text: grave.map((one) => words(one, now)).join('; '), isGrave: true };
  const silent = meeting.replies.filter((one) => one.reply === 'needs-action');
  const said = meeting.replies.length - silent.length;
  if (silent.length > 0) return { text: `${silent.length} not answered yet`, isGrave: false };
  const coming = meeting.replies.filter((one) => one.reply === 'accepted').length;
  const all = coming === said;
  return { text: all ? `all ${coming} come` : 'everyone has answered', isGrave: false };
}
