import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Unanswered } from '../../contract/invitations.ts';
import { counted } from '../../core/counted.ts';
import { formatDay } from '../../core/time/format.ts';
import { answerTo, Failure, useMe, useNow } from '../client/index.ts';
import { Empty, Outline } from '../design/states.tsx';
import { lengthWords } from './attentionWords.ts';

/** Who has not answered, over all the meetings that I organize: whoever owes the most answers first. */
export function WhoIsSilent() {
  const { data, isPending, isError, error, refetch } = useQuery(
    answerTo('GET /api/replies/unanswered'),
  );
  if (isPending) return <Outline what="who has not answered" rows={8} />;
  if (isError) return <Failure error={error} retry={() => void refetch()} />;
  if (data.total === 0)
    return (
      <Empty title="Nobody owes you an answer">
        Everyone you asked in the last half year has answered.
      </Empty>
    );
  return (
    <>
      <p className="mb-3 max-w-prose text-ink-2">
        {counted(data.total, 'person', 'people')} of those you asked in the last half year. A series
        counts as one meeting.
        {data.total > data.people.length && ` The first ${data.people.length} are listed.`}
      </p>
      <ul aria-label="Who has not answered">
        {data.people.map((one) => (
          <Silent key={one.personId ?? one.email} one={one} />
        ))}
      </ul>
    </>
  );
}

function Silent({ one }: { one: Unanswered }) {
  const me = useMe();
  const now = useNow();
  const others = one.waiting - one.meetings.length;
  return (
    <li className="grid grid-cols-[minmax(0,16rem)_minmax(0,1fr)] gap-x-6 gap-y-1 border-t border-edge py-2.5 max-sm:grid-cols-1">
      <div className="min-w-0">
        <span className="block truncate font-semibold">{one.name}</span>
        {one.personId === null && (
          <span className="block truncate text-xs text-ink-2">{one.email}</span>
        )}
        <span className="block text-ink-2">{oweWords(one, now)}</span>
      </div>
      {one.meetings.length > 0 && (
        <ul className="min-w-0">
          {one.meetings.map(({ id, title, start, role, nudgedAt }) => (
            <li key={id}>
              <Link
                className="group block min-h-6 max-sm:flex max-sm:min-h-11 max-sm:flex-wrap max-sm:items-center max-sm:gap-x-1.5"
                to={`/replies?meeting=${id}`}
              >
                <span data-written className="font-semibold group-hover:underline">
                  {title}
                </span>{' '}
                <span className="text-ink-2">
                  {formatDay(start, me.zone)}
                  {role === 'optional' && ', optional'}
                  {nudgedAt !== null && `, nudged ${lengthWords(now - nudgedAt)} ago`}
                </span>
              </Link>
            </li>
          ))}
          {others > 0 && <li className="text-ink-2">and {counted(others, 'other')}</li>}
        </ul>
      )}
    </li>
  );
}

/** What somebody owes: `owes 2 answers, the first asked 9 days ago; never answered 3 of 12 meetings`. */
function oweWords({ asked, never, waiting, since }: Unanswered, now: number): string {
  const parts = [];
  if (waiting > 0 && since !== null) {
    const long = lengthWords(now - since);
    parts.push(
      waiting === 1
        ? `owes 1 answer, for ${long}`
        : `owes ${waiting} answers, the longest for ${long}`,
    );
  }
  if (never > 0) parts.push(`never answered ${never} of ${counted(asked, 'meeting')}`);
  return parts.join('; ');
}
