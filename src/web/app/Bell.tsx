import { Bell as BellSign } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import { formatDay, formatSpan, formatTime } from '../../core/time/format.ts';
import { DAY } from '../../core/time/interval.ts';
import { AnswerButtons, REPLY_WORDS, useNews } from '../invitations/index.ts';
import { IconButton } from '../design/controls.tsx';
import { useMe, useNow } from './session.ts';

/** What is new for me: invitations that wait, and answers to what I organize. */
export function Bell() {
  const me = useMe();
  const now = useNow();
  const [seenAt, markSeen] = useSeen(me.id, now);
  const { data } = useNews();
  const invitations = data?.waiting ?? [];
  const answers = data?.answers ?? [];
  const proposals = data?.proposals ?? [];
  const unseen =
    invitations.filter((one) => one.invitedAt > seenAt).length +
    answers.filter((one) => one.repliedAt > seenAt).length +
    proposals.filter((one) => one.askedAt > seenAt).length;
  return (
    <Popover.Root onOpenChange={(open) => !open && markSeen(now)}>
      <Popover.Trigger asChild>
        <IconButton
          className="relative"
          label={unseen > 0 ? `What is new: ${unseen}` : 'What is new'}
        >
          <BellSign size={20} aria-hidden="true" />
          {unseen > 0 && (
            <span
              aria-hidden="true"
              className="absolute top-0 right-0 grid h-4.5 min-w-4.5 place-items-center rounded-full bg-alpenglow px-1 text-[11px] leading-none font-bold text-paper"
            >
              {unseen}
            </span>
          )}
        </IconButton>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="What is new"
          className="z-40 grid max-h-[70dvh] w-[min(400px,94vw)] content-start overflow-y-auto rounded-sm border border-edge bg-sheet px-4 py-3 shadow-lg"
        >
          <h2 className="mb-1 text-[15px]">What is new</h2>
          {invitations.length + answers.length + proposals.length === 0 && (
            <p className="py-2 text-ink-2">
              Nothing is. Invitations, and answers to what you organize, show up here.
            </p>
          )}
          <ul>
            {invitations.map((one) => (
              <li
                key={`${one.eventId} ${one.occurrence}`}
                className="grid gap-1.5 border-t border-edge py-2"
              >
                <Popover.Close asChild>
                  <Link
                    to={`/invitations/${one.eventId}${one.occurrence ? `?occurrence=${one.occurrence}` : ''}`}
                    className="hover:underline"
                  >
                    <span className="text-ink-2">{one.organizer} invites you: </span>
                    <b className="font-semibold">{one.title}</b>,{' '}
                    {formatSpan(one, me.zone, me.clock)}
                    {one.recurring &&
                      (one.occurrence ? ', this date alone' : ', and all further dates')}
                  </Link>
                </Popover.Close>
                <AnswerButtons
                  asked={{
                    eventId: one.eventId,
                    occurrence: one.occurrence,
                    organizer: one.organizer,
                    ...(one.recurring && { covers: one.occurrence ? 'one' : 'all' }),
                  }}
                  about={one.title}
                />
              </li>
            ))}
            {proposals.map((one) => (
              <li key={`${one.eventId} ${one.attendeeId}`} className="border-t border-edge py-2">
                <Popover.Close asChild>
                  <Link to={`/replies?meeting=${one.eventId}`} className="hover:underline">
                    <b className="font-semibold">{one.name}</b> asks for another time of {one.title}
                  </Link>
                </Popover.Close>
                <span className="block text-ink-2">
                  {formatDay(one.start, me.zone)} {formatTime(one.start, me.zone, me.clock)}
                  {one.count > 1 && `, or ${one.count - 1} more`}
                </span>
              </li>
            ))}
            {answers.map((one) => (
              <li
                key={`${one.eventId} ${one.attendeeId} ${one.repliedAt}`}
                className="border-t border-edge py-2"
              >
                <Popover.Close asChild>
                  <Link to="/replies" className="hover:underline">
                    <b className="font-semibold">{one.name}</b>: {REPLY_WORDS[one.reply]},{' '}
                    {one.title}
                  </Link>
                </Popover.Close>
                <span className="block text-ink-2">
                  {one.note && `“${one.note}” `}
                  {formatDay(one.repliedAt, me.zone)} {formatTime(one.repliedAt, me.zone, me.clock)}
                </span>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Up to when this browser's person has looked; at first, a day ago. Epoch milliseconds. */
function useSeen(personId: number, now: number): [number, (at: number) => void] {
  const key = `marmot.seen.${personId}`;
  const [at, setAt] = useState(() => Number(localStorage.getItem(key) ?? now - DAY));
  return [
    at,
    (next) => {
      localStorage.setItem(key, String(next));
      setAt(next);
    },
  ];
}
