import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { AsideList, AsideMail } from '../../contract/incoming.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { errorText, Failure, readApi, sendApi, useMe } from '../app/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Outline } from '../design/states.tsx';

/** Answers by mail that were not counted by themselves: why, and counting them by hand. */
export function AnswersAside({ meetingId }: { meetingId: string }) {
  const me = useMe();
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ['replies', 'aside', meetingId],
    queryFn: () => readApi<AsideList>(`/replies/${meetingId}/aside`),
  });
  const settle = useMutation({
    mutationFn: ({ mail, how }: { mail: AsideMail; how: 'count' | 'leave' }) =>
      sendApi<AsideList>('POST', `/incoming/${mail.id}/${how}`, {}),
    onSuccess: (_, { mail, how }) => {
      if (how === 'count') tellUser(`The answer from ${mail.sender} is counted.`);
    },
    onError: (error) => tellUser(errorText(error)),
    onSettled: () => client.invalidateQueries({ queryKey: ['replies'] }),
  });
  return (
    <section aria-label="Put aside">
      <h3 className="mb-1 text-[15px]">
        Put aside{' '}
        <span className="text-[13px] font-normal text-ink-2">
          answers by mail that want to be looked at
        </span>
      </h3>
      {query.isPending && <Outline what="what was put aside" rows={2} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      <ul className="empty:hidden">
        {query.data?.mails.map((mail) => (
          <li
            key={mail.id}
            className="flex flex-wrap items-start gap-x-4 gap-y-1 border-t border-edge py-2"
          >
            <div className="min-w-48 flex-1">
              <p>
                <b className="font-semibold">{mail.sender || 'A file without a sender'}</b>{' '}
                <span className="text-xs text-ink-2">
                  {formatDay(mail.receivedAt, me.zone)}{' '}
                  {formatTime(mail.receivedAt, me.zone, me.clock)}
                </span>
              </p>
              <p className="text-ink-2">{mail.reason}</p>
              {mail.words && (
                <blockquote className="whitespace-pre-line">“{mail.words}”</blockquote>
              )}
            </div>
            <span className="flex gap-2">
              {mail.canCount && (
                <Button
                  disabled={settle.isPending}
                  onClick={() => settle.mutate({ mail, how: 'count' })}
                >
                  Count it
                </Button>
              )}
              <Button
                look="quiet"
                disabled={settle.isPending}
                onClick={() => settle.mutate({ mail, how: 'leave' })}
              >
                {mail.canCount ? 'Do not count it' : 'I have read it'}
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
