import { Link } from 'react-router';
import { formatSpan } from '../../core/time/format.ts';
import { DAY } from '../../core/time/interval.ts';
import { Failure, useMe, useNow } from '../client/index.ts';
import { PartHeading } from '../design/controls.tsx';
import { Outline } from '../design/states.tsx';
import { useFirstReplies } from '../invitations/index.ts';

export const MOST_WAITED_FOR = 8;
/** Somebody who was asked so long ago will not answer by themselves. */
const LONG_MS = 3 * DAY;

/** Who has not answered what I organize. */
export function WaitingFor() {
  const me = useMe();
  const now = useNow();
  const query = useFirstReplies(MOST_WAITED_FOR);
  const open = (query.data?.meetings ?? [])
    .map((meeting) => ({
      ...meeting,
      missing: meeting.replies.filter((one) => one.reply === 'needs-action'),
    }))
    .filter((meeting) => meeting.missing.length > 0);
  const more = (query.data?.waiting ?? 0) - open.length;
  const answers = open.reduce((sum, meeting) => sum + meeting.missing.length, 0);
  return (
    <section aria-labelledby="waiting-for">
      <PartHeading
        remark={
          answers > 0 && more === 0 ? `${answers} answer${answers === 1 ? '' : 's'}` : undefined
        }
      >
        <span id="waiting-for">Replies you wait for</span>
      </PartHeading>
      {query.isPending && <Outline what="replies" rows={3} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && open.length === 0 && <p className="text-ink-2">Nobody owes you an answer.</p>}
      <ul>
        {open.map((meeting) => {
          const first = Math.min(...meeting.missing.map((one) => one.invitedAt));
          return (
            <li key={meeting.id} className="border-t border-edge py-2">
              <Link to="/replies" className="reach font-semibold hover:underline">
                {meeting.title}
              </Link>
              <span className="block">{formatSpan(meeting, me.zone, me.clock)}</span>
              <span
                className={
                  now - first >= LONG_MS ? 'block font-semibold text-alpenglow' : 'block text-ink-2'
                }
              >
                {meeting.missing.map((one) => one.name).join(', ')}, {agoWords(now - first)}
              </span>
            </li>
          );
        })}
      </ul>
      {more > 0 && (
        <Link to="/replies" className="reach font-semibold text-gentian hover:underline">
          {more} more {more === 1 ? 'meeting' : 'meetings'}
        </Link>
      )}
    </section>
  );
}

function agoWords(ms: number): string {
  const days = Math.floor(ms / DAY);
  if (days <= 0) return 'asked today';
  return days === 1 ? 'asked a day ago' : `asked ${days} days ago`;
}
