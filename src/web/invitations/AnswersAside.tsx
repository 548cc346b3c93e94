import { useMutation, useQuery } from '@tanstack/react-query';
import { Suspense } from 'react';
import type { AsideMail, CountAside } from '../../contract/incoming.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { callApi, answerTo, errorText, Failure, useChanged, useMe } from '../client/index.ts';
import { Button, PartHeading } from '../design/controls.tsx';
import { lazily } from '../design/fetched.ts';
import { tellUser } from '../design/notices.ts';
import { Outline } from '../design/states.tsx';

const ClockAsked = lazily(async () => (await import('./ClockAsked.tsx')).ClockAsked);

/** Answers by mail that were not counted by themselves: why, and counting them by hand. */
export function AnswersAside({ meetingId }: { meetingId: string }) {
  const query = useQuery(answerTo('GET /api/replies/:id/aside', { params: { id: meetingId } }));
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
      <AsideRows
        mails={query.data?.mails ?? []}
        words={{ count: 'Count it', leave: 'Do not count it' }}
        said={(mail) => `The answer from ${mail.sender} is counted.`}
      />
    </section>
  );
}

/** What was put aside of the mail to my own address. */
export const useMailAside = () => useQuery(answerTo('GET /api/incoming'));

/** Mail to my own address that was put aside; nothing where there is none. */
export function MailAside() {
  const { data } = useMailAside();
  if (!data || data.mails.length === 0) return null;
  return (
    <section aria-labelledby="mail-aside" className="mt-6">
      <PartHeading remark="came by mail, and wants to be looked at">
        <span id="mail-aside">Put aside</span>
      </PartHeading>
      <AsideRows
        mails={data.mails}
        words={{ count: 'It is genuine, take it', leave: 'Leave it out' }}
        said={(mail) => `“${mail.subject}” is in your calendar.`}
      />
    </section>
  );
}

function AsideRows({
  mails,
  words,
  said,
}: {
  mails: readonly AsideMail[];
  /** What it is called to count one by hand, and not to. */
  words: { count: string; leave: string };
  /** Once it is counted. */
  said: (mail: AsideMail) => string;
}) {
  const me = useMe();
  const changed = useChanged();
  const settle = useMutation({
    mutationFn: ({ mail, how }: { mail: AsideMail; how: 'leave' | CountAside }) =>
      how === 'leave'
        ? callApi('POST /api/incoming/:id/leave', { params: { id: mail.id } })
        : callApi('POST /api/incoming/:id/count', { params: { id: mail.id }, body: how }),
    onSuccess: (_, { mail, how }) => {
      if (how === 'leave') return;
      if (mail.sends) tellUser(`${mail.sends} is asked.`);
      else tellUser(how.allOfSender ? `All from ${mail.sender} is counted.` : said(mail));
    },
    onError: (error) => tellUser(errorText(error)),
    onSettled: () => changed('calendar', 'notifications'),
  });
  return (
    <ul className="empty:hidden">
      {mails.map((mail) => (
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
            {mail.subject && <p>{mail.subject}</p>}
            <p className="text-ink-2">{mail.reason}</p>
            {mail.wantsClock && (
              <Suspense fallback={<Outline what="the clocks there are" rows={1} />}>
                <ClockAsked
                  isBusy={settle.isPending}
                  onChosen={(zone) => settle.mutate({ mail, how: { zone, allOfSender: false } })}
                />
              </Suspense>
            )}
            {mail.words && <blockquote className="whitespace-pre-line">“{mail.words}”</blockquote>}
          </div>
          <span className="flex gap-2">
            {mail.canCount && !mail.wantsClock && (
              <Button
                className="max-sm:min-h-11"
                disabled={settle.isPending}
                onClick={() => settle.mutate({ mail, how: { allOfSender: false } })}
              >
                {mail.sends ? 'Ask them instead' : words.count}
              </Button>
            )}
            {mail.canCount && !mail.wantsClock && !mail.sends && mail.hasMore && (
              <Button
                className="max-sm:min-h-11"
                disabled={settle.isPending}
                onClick={() => settle.mutate({ mail, how: { allOfSender: true } })}
              >
                All from this sender
              </Button>
            )}
            <Button
              look="quiet"
              className="max-sm:min-h-11"
              disabled={settle.isPending}
              onClick={() => settle.mutate({ mail, how: 'leave' })}
            >
              {mail.canCount ? (mail.sends ? 'Do not ask them' : words.leave) : 'I have read it'}
            </Button>
          </span>
        </li>
      ))}
    </ul>
  );
}
