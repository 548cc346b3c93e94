import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import type {
  DismissRequest,
  DueReminder,
  RemindersResponse,
  SnoozeRequest,
} from '../../contract/reminders.ts';
import { formatHours, formatLength } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { callApi, answerTo, errorText, useMe, useNow } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Select } from '../design/Select.tsx';

const REMINDERS = answerTo('GET /api/reminders');
/** So many are shown at once; of more only how many they are. */
const MOST_SHOWN = 4;

/** What a browser's timer takes. */
const LONGEST_TIMER_MS = 2 ** 31 - 1;

type Until = SnoozeRequest['until'];
const LATER: { value: Until | null; words: string }[] = [
  { value: null, words: 'Later' },
  { value: 5, words: 'in 5 minutes' },
  { value: 15, words: 'in 15 minutes' },
  { value: 60, words: 'in an hour' },
  { value: 'start', words: 'when it begins' },
];

/** Reminders that are due, at their minute, over every view: each can be put off or away, or all. */
export function Reminders() {
  const client = useQueryClient();
  const { data } = useQuery({
    ...REMINDERS,
    // Live notices bring them; this is for when those are missed.
    refetchInterval: 5 * MINUTE,
  });
  const due = useDue(data?.reminders ?? []);
  useNotified(due);
  const kept = (now: RemindersResponse) => client.setQueryData(REMINDERS.queryKey, now);
  const onError = (error: unknown) => tellUser(errorText(error));
  const snooze = useMutation({
    mutationFn: (request: SnoozeRequest) =>
      callApi('POST /api/reminders/snooze', { body: request }),
    onSuccess: kept,
    onError,
  });
  const dismiss = useMutation({
    mutationFn: (request: DismissRequest) =>
      callApi('POST /api/reminders/dismiss', { body: request }),
    onSuccess: kept,
    onError,
  });
  const busy = snooze.isPending || dismiss.isPending;
  if (due.length === 0) return null;
  return (
    <section
      aria-label="Reminders"
      aria-live="polite"
      className="no-print fixed right-4 bottom-4 z-40 grid w-[min(360px,calc(100vw-2rem))] gap-2 rounded-sm border border-edge bg-sheet p-3 shadow-lg max-sm:bottom-20"
    >
      <ul className="grid gap-3">
        {due.slice(0, MOST_SHOWN).map((one) => (
          <OneReminder
            key={one.id}
            reminder={one}
            busy={busy}
            snooze={(until) => snooze.mutate({ reminders: [one.id], until })}
            dismiss={() => dismiss.mutate({ reminders: [one.id] })}
          />
        ))}
      </ul>
      {due.length > MOST_SHOWN && <p className="text-ink-2">and {due.length - MOST_SHOWN} more</p>}
      <div className="flex flex-wrap items-center gap-3 empty:hidden">
        {due.length > 1 && (
          <Button disabled={busy} onClick={() => dismiss.mutate({ reminders: 'all' })}>
            Dismiss all {due.length}
          </Button>
        )}
        <AskToNotify />
      </div>
    </section>
  );
}

function OneReminder({
  reminder,
  busy,
  snooze,
  dismiss,
}: {
  reminder: DueReminder;
  busy: boolean;
  snooze: (until: Until) => void;
  dismiss: () => void;
}) {
  const me = useMe();
  const now = useNow();
  const { eventId, recurrenceId, title, place } = reminder;
  return (
    <li className="grid gap-1">
      <p className="text-[13px] font-semibold text-alpenglow">{whenWords(reminder, now)}</p>
      <Link
        className="font-head text-[17px] leading-tight font-semibold hover:underline"
        to={`/events/${eventId}${recurrenceId ? `?occurrence=${recurrenceId}` : ''}`}
      >
        {title}
      </Link>
      <p className="text-ink-2">
        {reminder.allDay ? 'all day' : formatHours(reminder, me.zone, me.clock)}
        {place && ` · ${place}`}
      </p>
      <div className="flex items-center gap-2">
        <Button disabled={busy} onClick={dismiss} aria-label={`Dismiss the reminder of ${title}`}>
          Dismiss
        </Button>
        <Select<Until | null>
          look="word"
          question={`Remind me of ${title} again`}
          value={null}
          onChange={(until) => until !== null && snooze(until)}
          options={LATER.filter(({ value }) => value !== 'start' || reminder.start > now)}
        />
      </div>
    </li>
  );
}

/** `In 10 min`, `Now`, `Since 5 min`, `It is over`. */
function whenWords({ start, end }: DueReminder, now: number): string {
  const minutes = (span: number) => Math.max(MINUTE, Math.round(span / MINUTE) * MINUTE);
  if (end <= now) return 'It is over';
  if (start - now > MINUTE / 2) return `In ${formatLength(minutes(start - now))}`;
  if (now - start < MINUTE) return 'Now';
  return `Began ${formatLength(minutes(now - start))} ago`;
}

/** Those that are due by now; what is put off comes at its very second. */
function useDue(reminders: readonly DueReminder[]): DueReminder[] {
  const now = useNow();
  const [reached, setReached] = useState(0);
  const moment = Math.max(now, reached);
  const next = Math.min(...reminders.map((one) => one.dueAt).filter((at) => at > moment));
  useEffect(() => {
    if (!Number.isFinite(next)) return;
    const timer = setTimeout(() => setReached(next), Math.min(next - moment, LONGEST_TIMER_MS));
    return () => clearTimeout(timer);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- begun anew where the present moves on
  }, [next, now]);
  return reminders.filter((one) => one.dueAt <= moment);
}

/** Tells of each also outside the page, once in this browser, where that is allowed. */
function useNotified(due: readonly DueReminder[]): void {
  const me = useMe();
  const key = due.map((one) => one.id).join();
  useEffect(() => {
    if (!('Notification' in window) || Notification.permission !== 'granted') return;
    for (const one of due) {
      const said = `marmot.said.${one.id}.${one.dueAt}`;
      if (localStorage.getItem(said)) continue;
      localStorage.setItem(said, '1');
      // The same tag in two tabs is one message.
      new Notification(one.title, {
        tag: `reminder-${one.id}`,
        body: `${formatHours(one, me.zone, me.clock)}${one.place ? ` · ${one.place}` : ''}`,
      });
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told by their numbers
  }, [key]);
}

/** Whether reminders may also appear outside the page is the browser's to ask, once somebody wishes it. */
function AskToNotify() {
  const [state, setState] = useState(() =>
    'Notification' in window ? Notification.permission : 'denied',
  );
  if (state !== 'default') return null;
  return (
    <Button
      look="quiet"
      onClick={() => void Notification.requestPermission().then((answer) => setState(answer))}
    >
      Also outside this page
    </Button>
  );
}
