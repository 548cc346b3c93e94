import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { CancelledItem } from '../../contract/calendar.ts';
import type { RestoreEventRequest } from '../../contract/events.ts';
import { formatSpan } from '../../core/time/format.ts';
import { answerTo, Failure, useChanged, useMe, callApi } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Empty, Loading } from '../design/states.tsx';
import { AskDialog, type Question } from '../meetings/index.ts';

/** What I cancelled in the last 30 days, and the way back. */
export function CancelledView() {
  const query = useQuery(answerTo('GET /api/calendar/cancelled'));
  return (
    <main className="mx-auto w-full max-w-3xl px-4 py-5 md:px-6">
      <h1 className="mb-1 text-[26px]">Cancelled lately</h1>
      <p className="mb-5 text-ink-2">Kept for 30 days, and restored with people and places.</p>
      {query.isPending && <Loading what="what was cancelled" />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data?.cancelled.length === 0 && (
        <Empty title="Nothing cancelled">
          What you cancel stays here for 30 days, in case you think better of it.
        </Empty>
      )}
      <ul className="grid gap-2">
        {query.data?.cancelled.map((item) => (
          <CancelledLine key={`${item.eventId} ${item.occurrence}`} item={item} />
        ))}
      </ul>
    </main>
  );
}

function CancelledLine({ item }: { item: CancelledItem }) {
  const me = useMe();
  const changed = useChanged();
  const [question, setQuestion] = useState<Question | null>(null);
  const restore = useMutation({
    mutationFn: (request: RestoreEventRequest) =>
      callApi('POST /api/events/:id/restore', { params: { id: item.eventId }, body: request }),
    onSuccess: () => tellUser(`“${item.title}” is on again.`),
    onSettled: () => changed('calendar'),
  });
  const act: Question['act'] = ({ tell, message }) =>
    restore.mutate({
      version: item.version,
      ...(item.occurrence && { occurrence: item.occurrence }),
      tell,
      message,
    });
  const others = item.attendeeCount - 1;
  const ask = () =>
    others === 0
      ? act({ scope: 'all', tell: 'nobody', message: '' })
      : setQuestion({
          title: `Put “${item.title}” on again?`,
          seriesStart: null,
          others,
          verb: 'Restore it',
          act,
        });
  return (
    <li className="rounded-sm border border-edge bg-sheet px-4 py-3">
      <div className="flex flex-wrap items-center gap-3">
        <div className="mr-auto min-w-0">
          <p className="font-semibold">{item.title}</p>
          <p className="text-ink-2">
            {formatSpan(item, me.zone, me.clock)}
            {item.sentence ? `. ${item.sentence}` : item.occurrence ? ', one date of a series' : ''}
            {others > 0 && `, with ${others === 1 ? '1 other' : `${others} others`}`}
          </p>
        </div>
        <Button disabled={restore.isPending} onClick={ask}>
          Restore
        </Button>
      </div>
      {restore.isError && (
        <div className="mt-2">
          <Failure error={restore.error} />
        </div>
      )}
      {question && <AskDialog question={question} onClose={() => setQuestion(null)} />}
    </li>
  );
}
