import { Link } from 'react-router';
import type { MeetingReplies, RepliesList, Reply } from '../../contract/invitations.ts';
import { formatDay, formatSpan } from '../../core/time/format.ts';
import { DAY, HOUR } from '../../core/time/interval.ts';
import { Failure, useMe, useNow, usePages } from '../app/index.ts';
import { Empty, Outline } from '../design/states.tsx';
import { VirtualRows } from '../design/VirtualRows.tsx';
import { planPath } from '../lineUp/index.ts';
import { REPLY_WORDS, ReplyMark, Undelivered } from './replyWords.tsx';

const meetingsOf = (part: RepliesList) => part.meetings;
const idOf = (meeting: MeetingReplies) => meeting.id;

/** Who is coming, who has not said? All meetings I organize that are not over. */
export function RepliesView() {
  const { query, first, rows, more } = usePages<RepliesList, MeetingReplies>(
    'replies',
    new URLSearchParams(),
    meetingsOf,
  );
  return (
    <main className="mx-auto w-full max-w-7xl px-4 py-5 max-sm:py-2 md:px-6">
      <h1 className="mb-2 text-[26px] max-sm:text-[20px]">Replies</h1>
      {query.isPending && <Outline what="the replies" rows={8} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {first && first.total === 0 && (
        <Empty title="No meeting of yours is coming up">
          Here you see who comes to the meetings you organize.{' '}
          <Link className="font-semibold text-gentian underline" to="/plan">
            Plan one
          </Link>
        </Empty>
      )}
      {first && first.total > 0 && (
        <>
          <p className="mb-3 text-ink-2">
            {first.waiting === 0
              ? 'Everyone has answered.'
              : `${first.waiting} of ${first.total} ${first.total === 1 ? 'meeting waits' : 'meetings wait'} for answers; those come first.`}
          </p>
          <VirtualRows
            label="Meetings"
            rows={rows}
            keyOf={idOf}
            total={first.total}
            rowPx={[150, 260]}
            onNeedMore={more}
          >
            {(meeting) => <Meeting meeting={meeting} />}
          </VirtualRows>
        </>
      )}
    </main>
  );
}

function Meeting({ meeting }: { meeting: MeetingReplies }) {
  const me = useMe();
  const count = (reply: Reply) => meeting.replies.filter((one) => one.reply === reply).length;
  return (
    <article className="mb-3 grid rounded-sm border border-edge bg-sheet lg:grid-cols-[320px_minmax(0,1fr)]">
      <div className="px-4 py-3">
        <h2 className="text-base">
          <Link to={`/invitations/${meeting.id}`} className="reach hover:underline">
            {meeting.title}
          </Link>
        </h2>
        <p className="text-ink-2">
          {formatSpan(meeting, me.zone, me.clock)}
          {meeting.recurring ? ', a series' : ''}
        </p>
        <p className="mt-1">
          <b className="font-semibold">{count('accepted')}</b> accepted, {count('tentative')}{' '}
          tentative, {count('declined')} declined,{' '}
          <b className={count('needs-action') ? 'font-semibold text-alpenglow' : 'font-normal'}>
            {count('needs-action')} not answered yet
          </b>
        </p>
        {!meeting.recurring && (
          <Link
            className="mt-1 inline-block min-h-6 font-semibold text-gentian hover:underline max-sm:py-3"
            to={planPath({ eventId: meeting.id })}
            aria-label={`Find another time for ${meeting.title}`}
          >
            Find another time
          </Link>
        )}
      </div>
      <div className="border-edge max-lg:border-t lg:border-l">
        <ul className="grid py-1 sm:grid-cols-2 xl:grid-cols-3">
          {meeting.replies.map((one) => (
            <Attendee key={one.attendeeId} one={one} />
          ))}
        </ul>
        {meeting.dates.length > 0 && <SingleDates meeting={meeting} />}
      </div>
    </article>
  );
}

/** Who answered otherwise to single dates of a series. */
function SingleDates({ meeting }: { meeting: MeetingReplies }) {
  const me = useMe();
  return (
    <div className="border-t border-edge px-4 py-2">
      <h3 className="text-[14px]">Different on single dates</h3>
      <ul className="grid gap-x-4 sm:grid-cols-2 lg:grid-cols-3">
        {meeting.dates.map((one) => (
          <li key={`${one.attendeeId} ${one.occurrence}`} className="flex gap-2 py-1">
            <span className="pt-1">
              <ReplyMark reply={one.reply} />
            </span>
            <span>
              <span className="font-medium">{one.name}</span>,{' '}
              <Link
                className="text-gentian underline"
                to={`/invitations/${meeting.id}?occurrence=${one.occurrence}`}
              >
                {formatDay(one.start, me.zone)}
              </Link>
              <span className="block text-xs text-ink-2">
                {REPLY_WORDS[one.reply]}
                {one.note ? `: “${one.note}”` : ''}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Attendee({ one }: { one: MeetingReplies['replies'][number] }) {
  const now = useNow();
  return (
    <li className="flex gap-2 px-4 py-1.5">
      <span className="pt-1">
        <ReplyMark reply={one.reply} />
      </span>
      <span>
        <span className="font-medium">{one.name}</span>
        {one.role === 'optional' && <span className="text-ink-2"> (optional)</span>}
        <span className="block text-xs text-ink-2">
          {REPLY_WORDS[one.reply]}
          {one.reply === 'needs-action' ? `, asked ${ago(now - one.invitedAt)}` : ''}
          {one.note ? `: “${one.note}”` : ''}
        </span>
        {one.undelivered && <Undelivered reason={one.undelivered} />}
      </span>
    </li>
  );
}

function ago(milliseconds: number): string {
  if (milliseconds < HOUR) return 'just now';
  if (milliseconds < DAY) return `${Math.round(milliseconds / HOUR)} h ago`;
  const days = Math.round(milliseconds / DAY);
  return days === 1 ? 'a day ago' : `${days} days ago`;
}
