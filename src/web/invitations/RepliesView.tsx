import { Link, useNavigate, useSearchParams } from 'react-router';
import type { MeetingReplies, RepliesList } from '../../contract/invitations.ts';
import { counted } from '../../core/counted.ts';
import { formatSpan } from '../../core/time/format.ts';
import { dateAt } from '../../core/time/wall.ts';
import { Failure, useMe, usePages } from '../client/index.ts';
import { Empty, Loading, Outline } from '../design/states.tsx';
import { OneOf } from '../design/Toggles.tsx';
import { usePhone } from '../design/usePhone.ts';
import { VirtualRows } from '../design/VirtualRows.tsx';
import { MeetingAnswers } from './MeetingAnswers.tsx';
import { MeetingRow } from './MeetingRow.tsx';
import { useRepliesTo } from './useInvitations.ts';
import { WhoIsSilent } from './WhoIsSilent.tsx';

const meetingsOf = (part: RepliesList) => part.meetings;
const idOf = (meeting: MeetingReplies) => meeting.id;

const WAYS = [
  { value: 'meeting', words: 'By meeting' },
  { value: 'person', words: 'Who has not answered' },
] as const;

/** Which of the two lists of Replies is shown; kept in the address. */
function Ways({ by }: { by: 'meeting' | 'person' }) {
  const navigate = useNavigate();
  return (
    <OneOf
      label="Replies by"
      look="ways"
      className="mb-2"
      options={WAYS}
      value={by}
      onChange={(next) => void navigate(next === 'person' ? '/replies?by=person' : '/replies')}
    />
  );
}

/** Who is coming, who has not said? By meeting, or by whoever owes an answer. */
export function RepliesView() {
  const [params] = useSearchParams();
  if (params.get('by') !== 'person') return <ByMeeting asked={params.get('meeting')} />;
  return (
    <main className="mx-auto w-full max-w-5xl px-4 py-5 max-sm:py-2 md:px-6">
      <h1 className="text-[22px] max-sm:text-[20px]">Replies</h1>
      <Ways by="person" />
      <WhoIsSilent />
    </main>
  );
}

/** All meetings I organize that are not over, what needs me first. */
function ByMeeting({ asked }: { asked: string | null }) {
  const phone = usePhone();
  const { query, first, rows, more } = usePages('GET /api/replies', {}, meetingsOf);
  const openId = asked ?? (phone ? null : (rows[0]?.id ?? null));
  const isSplit = openId !== null && !phone;
  return (
    <main
      className={`grid flex-1 grid-cols-[minmax(0,1fr)] ${isSplit ? 'md:grid-cols-[360px_minmax(0,1fr)]' : ''}`}
    >
      <section
        aria-labelledby="replies"
        className={`border-edge px-4 py-5 max-sm:py-2 md:pr-0 md:pl-6 ${openId ? 'hidden md:block md:border-r' : ''}`}
      >
        <h1 id="replies" className="text-[22px] max-sm:text-[20px]">
          Replies
        </h1>
        <Ways by="meeting" />
        {query.isPending && <Outline what="the replies" rows={8} />}
        {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
        {first && first.drafts.length > 0 && <Drafts drafts={first.drafts} />}
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
            <p className="mb-3 text-ink-2">{summary(first)}</p>
            <VirtualRows
              label="Meetings"
              rows={rows}
              keyOf={idOf}
              total={first.total}
              rowPx={[100, 100]}
              onNeedMore={more}
            >
              {(meeting) => <MeetingRow meeting={meeting} isOpen={meeting.id === openId} />}
            </VirtualRows>
          </>
        )}
      </section>
      {openId && (
        <section
          aria-label="The meeting’s answers"
          className="min-w-0 px-4 py-5 max-sm:py-2 md:sticky md:top-0 md:max-h-[calc(100dvh-3.4rem)] md:self-start md:overflow-y-auto md:px-6"
        >
          <Link to="/replies" className="font-semibold text-gentian max-sm:py-3 md:hidden">
            All replies
          </Link>
          <Answers id={openId} known={rows.find((one) => one.id === openId) ?? null} />
        </section>
      )}
    </main>
  );
}

/** What is not sent yet, each with the way to where it is sent. */
function Drafts({ drafts }: { drafts: RepliesList['drafts'] }) {
  const me = useMe();
  return (
    <section aria-labelledby="drafts" className="mt-2 mb-4">
      <h2 id="drafts" className="text-[15px]">
        Not sent yet
      </h2>
      <ul>
        {drafts.map(({ id, title, start, end, toAsk, holds }) => (
          <li key={id}>
            <Link
              className="block py-1.5 hover:underline max-sm:min-h-11"
              to={`/calendar?date=${dateAt(start, me.zone)}&event=${id}`}
            >
              <span className="font-semibold">{title}</span>{' '}
              <span className="text-ink-2">
                {formatSpan({ start, end }, me.zone, me.clock)}, for{' '}
                {counted(toAsk, 'person', 'people')}
                {holds && ', time held'}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The meeting that is open, read by itself where the list does not reach it yet. */
function Answers({ id, known }: { id: string; known: MeetingReplies | null }) {
  const { data, isPending } = useRepliesTo(known ? null : id);
  const meeting = known ?? (data?.id === id ? data : null);
  if (meeting) return <MeetingAnswers meeting={meeting} />;
  if (isPending) return <Loading what="the answers" />;
  return (
    <Empty title="This meeting has nobody’s answers to show">
      It is over, cancelled, or not one that you organize.
    </Empty>
  );
}

function summary({ total, needing, waiting }: RepliesList): string {
  const meetings = total === 1 ? '1 meeting of yours' : `${total} meetings of yours`;
  if (needing > 0)
    return `${meetings}; ${needing} ${needing === 1 ? 'needs' : 'need'} you, ${needing === 1 ? 'that comes' : 'those come'} first`;
  return waiting === 0
    ? `${meetings}; everyone has answered`
    : `${meetings}; ${waiting} wait for answers`;
}
