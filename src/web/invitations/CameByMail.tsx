import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { answerTo, Failure, useMe } from '../client/index.ts';
import { Outline } from '../design/states.tsx';

const useLetters = (eventId: string, isWanted = true) =>
  useQuery({
    ...answerTo('GET /api/events/:id/letters', { params: { id: eventId } }),
    enabled: isWanted,
  });

/** From which letter a meeting of elsewhere was taken, why it was believed, and what of it is not kept. */
export function CameByMail({ eventId }: { eventId: string }) {
  const { data } = useLetters(eventId);
  const [last] = data?.letters ?? [];
  if (!last) return null;
  return (
    <section aria-label="Where it comes from" className="text-[13px] text-ink-2">
      <When at={last.receivedAt} /> {last.why}
    </section>
  );
}

/** Letters from which answers to a meeting were counted, and why: looked at by whoever wonders. */
export function AnswersByMail({ meetingId }: { meetingId: string }) {
  const [isOpen, setOpen] = useState(false);
  const query = useLetters(meetingId, isOpen);
  return (
    <details
      className="mt-3 text-[13px] text-ink-2"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="min-h-6 cursor-pointer font-semibold text-gentian">
        Answers by mail, and why they count
      </summary>
      {isOpen && query.isPending && <Outline what="the letters" rows={2} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data?.letters.length === 0 && <p className="pt-1">None came by mail.</p>}
      <ul>
        {query.data?.letters.map((one) => (
          <li key={`${one.receivedAt} ${one.sender}`} className="border-t border-edge py-1">
            <b className="font-semibold">{one.sender || 'A file without a sender'}</b>,{' '}
            <When at={one.receivedAt} /> {one.why}
          </li>
        ))}
      </ul>
    </details>
  );
}

function When({ at }: { at: number }) {
  const me = useMe();
  return (
    <>
      By mail {formatDay(at, me.zone)} {formatTime(at, me.zone, me.clock)}.
    </>
  );
}
