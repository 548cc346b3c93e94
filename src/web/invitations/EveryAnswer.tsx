import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { AnswerHistory } from '../../contract/invitations.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { answerTo, Failure, useMe } from '../client/index.ts';
import { Outline } from '../design/states.tsx';
import { REPLY_WORDS } from './replyWords.tsx';

type Entry = AnswerHistory['entries'][number];

/** Every answer as it came, also those that were changed since, with who was asked and reminded when. */
export function EveryAnswer({ meetingId }: { meetingId: string }) {
  const me = useMe();
  const [open, setOpen] = useState(false);
  const query = useQuery({
    ...answerTo('GET /api/replies/:id/history', { params: { id: meetingId } }),
    enabled: open,
  });
  return (
    <section aria-label="Every answer">
      <button
        type="button"
        aria-expanded={open}
        className="reach font-semibold text-gentian hover:underline"
        onClick={() => setOpen(!open)}
      >
        {open ? 'Hide what happened when' : 'Every answer, as it came'}
      </button>
      {open && query.isPending && <Outline what="the answers" rows={3} />}
      {open && query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {open && query.data && (
        <ol className="mt-1">
          {query.data.entries.map((one) => (
            <li
              key={`${one.at} ${one.attendeeId} ${one.what}`}
              className="grid grid-cols-[9rem_1fr] gap-x-3 border-t border-edge py-1 text-[13px]"
            >
              <span className="text-ink-2">
                {formatDay(one.at, me.zone)} {formatTime(one.at, me.zone, me.clock)}
              </span>
              <span>
                <b className="font-semibold">{one.name}</b> {words(one)}
                {one.by && ` (by ${one.by})`}
                {one.occurrence &&
                  `, for ${formatDay(Date.parse(`${one.occurrence}Z`), 'UTC')} alone`}
              </span>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

function words({ what, reply }: Entry): string {
  if (what === 'replied') return reply ? REPLY_WORDS[reply] : 'answered';
  if (what === 'nudged') return 'was nudged';
  if (what === 'proposed') return 'asked for another time';
  if (what === 'proposal-declined') return 'heard that it stays at its time';
  return 'was asked';
}
