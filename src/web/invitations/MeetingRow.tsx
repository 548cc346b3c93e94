import { Link } from 'react-router';
import type { MeetingReplies, Reply } from '../../contract/invitations.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { DAY } from '../../core/time/interval.ts';
import { dateAt } from '../../core/time/wall.ts';
import { useMe, useNow } from '../client/index.ts';
import { lengthWords, stateWords } from './attentionWords.ts';

/** A meeting in the list: when it is, how far its answers are, and what needs its organizer. */
export function MeetingRow({ meeting, isOpen }: { meeting: MeetingReplies; isOpen: boolean }) {
  const now = useNow();
  const { text, isGrave } = stateWords(meeting, now);
  const count = (reply: Reply) => meeting.replies.filter((one) => one.reply === reply).length;
  return (
    <Link
      to={`/replies?meeting=${meeting.id}`}
      aria-current={isOpen ? 'true' : undefined}
      className={`block border-t border-edge px-3.5 py-2.5 ${isOpen ? 'bg-sheet shadow-[inset_3px_0_0_var(--gentian)]' : 'hover:bg-sheet'}`}
    >
      <span className="flex items-baseline justify-between gap-3">
        <span data-written className="truncate font-semibold">
          {meeting.title}
          {meeting.for && <span className="font-normal text-ink-2">, for {meeting.for}</span>}
        </span>
        <span className="shrink-0 text-xs text-ink-2">
          <When meeting={meeting} />
        </span>
      </span>
      <ReplyBar meeting={meeting} />
      <span
        className={`block text-xs leading-snug ${isGrave ? 'font-semibold text-alpenglow' : 'text-ink-2'}`}
      >
        {text}
      </span>
      <span className="block text-xs text-ink-2">
        {count('accepted')} accepted, {count('tentative')} tentative, {count('declined')} declined
        {isGrave && count('needs-action') > 0 && `, ${count('needs-action')} not answered yet`}
      </span>
    </Link>
  );
}

function When({ meeting }: { meeting: MeetingReplies }) {
  const me = useMe();
  const now = useNow();
  if (meeting.allDay) return formatDay(meeting.start, me.zone);
  const time = formatTime(meeting.start, me.zone, me.clock);
  const left = meeting.start - now;
  if (left > 0 && left < DAY && dateAt(meeting.start, me.zone) === dateAt(now, me.zone))
    return `today ${time}, in ${lengthWords(left)}`;
  return `${formatDay(meeting.start, me.zone)} ${time}`;
}

const PARTS: readonly (readonly [Reply, string])[] = [
  ['accepted', 'bg-ink'],
  ['tentative', 'mark-dots bg-sheet'],
  ['declined', 'mark-stripes'],
  ['needs-action', 'border border-dashed border-ink-2'],
];

/** Who comes, perhaps comes, does not and is silent, as parts of a line: each with a pattern of its own. */
export function ReplyBar({ meeting }: { meeting: Pick<MeetingReplies, 'replies'> }) {
  return (
    <span aria-hidden="true" className="my-1.5 flex h-[7px] gap-px">
      {PARTS.map(([reply, look]) => {
        const count = meeting.replies.filter((one) => one.reply === reply).length;
        return count === 0 ? null : (
          <i
            key={reply}
            className={look}
            style={{
              flexGrow: count,
              ['--mark' as string]: reply === 'declined' ? 'var(--alpenglow)' : 'var(--ink-2)',
            }}
          />
        );
      })}
    </span>
  );
}
