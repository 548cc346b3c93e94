import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { CalendarResponse } from '../../contract/calendar.ts';
import type { CalendarItem } from '../../contract/events.ts';
import type { MeetingReplies, WaitingInvitation } from '../../contract/invitations.ts';
import {
  formatDay,
  formatLength,
  formatLongDay,
  formatSpan,
  formatTime,
} from '../../core/time/format.ts';
import { addDays, dateAt, startOfDay } from '../../core/time/wall.ts';
import { Failure, readApi, useMe, useNow } from '../app/index.ts';
import { itemClass } from '../grid/index.ts';
import { PartHeading } from '../design/controls.tsx';
import { Empty, Loading } from '../design/states.tsx';

/** What needs me, and what is next? */
export function TodayView() {
  const me = useMe();
  const now = useNow();
  return (
    <main className="mx-auto w-full max-w-6xl px-4 py-5 md:px-6">
      <h1 className="mb-5 text-[26px]">
        {formatLongDay(now, me.zone)}, {formatTime(now, me.zone, me.clock)}
      </h1>
      <div className="grid gap-8 md:grid-cols-[1.1fr_1fr]">
        <Next />
        <div className="grid content-start gap-8">
          <WaitingForMe />
          <RepliesIWaitFor />
        </div>
      </div>
    </main>
  );
}

function Next() {
  const me = useMe();
  const now = useNow();
  const today = dateAt(now, me.zone);
  const from = startOfDay(today, me.zone);
  const to = startOfDay(addDays(today, 2), me.zone);
  const tomorrow = startOfDay(addDays(today, 1), me.zone);
  const query = useQuery({
    queryKey: ['calendar', 'items', from, to, ''],
    queryFn: () => readApi<CalendarResponse>(`/calendar?from=${from}&to=${to}`),
  });
  const items = query.data?.items ?? [];
  const ahead = items.filter((item) => item.end > now);
  const next = ahead.find((item) => !item.allDay && item.occupancy !== 'free');
  return (
    <section aria-label="Next">
      {query.isPending && <Loading what="your day" />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && next && (
        <div className="mb-6 rounded-sm border border-edge bg-sheet px-5 py-4">
          <p className="text-ink-2">{untilWords(next, now)}</p>
          <p className="font-head text-xl font-semibold">{next.title}</p>
          <p>
            {formatSpan(next, me.zone, me.clock)}
            {placeOf(next) && `, ${placeOf(next)}`}
          </p>
        </div>
      )}
      <DayList
        title="Today"
        items={ahead.filter((item) => item.start < tomorrow)}
        shown={query.isSuccess}
      />
      <DayList
        title={`Tomorrow, ${formatDay(tomorrow, me.zone)}`}
        items={items.filter((item) => item.start >= tomorrow)}
        shown={query.isSuccess}
      />
    </section>
  );
}

const placeOf = (item: CalendarItem) => [item.place, ...item.resources].filter(Boolean).join(', ');

function untilWords(item: CalendarItem, now: number): string {
  if (item.start <= now) return `On now, until it ends in ${formatLength(item.end - now)}`;
  return `Next, in ${formatLength(Math.max(60_000, item.start - now))}`;
}

function DayList({
  title,
  items,
  shown,
}: {
  title: string;
  items: CalendarItem[];
  shown: boolean;
}) {
  const me = useMe();
  if (!shown) return null;
  return (
    <div className="mb-6">
      <PartHeading remark={items.length ? `${items.length}` : undefined}>{title}</PartHeading>
      {items.length === 0 && <p className="text-ink-2">Nothing planned.</p>}
      <ul className="grid gap-1">
        {items.map((item) => (
          <li
            key={item.occurrenceId}
            className="grid grid-cols-[7rem_8px_1fr] items-stretch gap-3 py-0.5"
          >
            <span className="text-ink-2">
              {item.allDay
                ? 'all day'
                : `${formatTime(item.start, me.zone, me.clock)}–${formatTime(item.end, me.zone, me.clock)}`}
            </span>
            <span className={`rounded-sm ${itemClass(item)}`} aria-hidden="true" />
            <span>
              <Link
                className="font-semibold hover:underline"
                to={`/calendar?date=${dateAt(item.start, me.zone)}&event=${item.eventId}${item.recurrenceId ? `&on=${item.recurrenceId}` : ''}`}
              >
                {item.title}
              </Link>
              <span className="text-ink-2">
                {placeOf(item) && ` ${placeOf(item)}`}
                {item.standing === 'needs-action' && ' · not answered yet'}
                {item.standing === 'tentative' && ' · tentative'}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

function WaitingForMe() {
  const me = useMe();
  const query = useQuery({
    queryKey: ['invitations', 'waiting'],
    queryFn: () => readApi<{ waiting: WaitingInvitation[] }>('/invitations'),
  });
  const waiting = query.data?.waiting ?? [];
  return (
    <section aria-labelledby="waiting">
      <h2 id="waiting" className="mb-2 text-[15px]">
        Waits for your answer
        {waiting.length > 0 && <span className="text-alpenglow"> {waiting.length}</span>}
      </h2>
      {query.isPending && <Loading what="invitations" />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && waiting.length === 0 && (
        <Empty title="You have answered everything">
          Invitations you have not answered show up here.
        </Empty>
      )}
      <ul>
        {waiting.map((one) => (
          <li key={one.eventId} className="border-t border-edge py-2 first:border-0">
            <Link
              to={`/invitations/${one.eventId}${one.occurrence ? `?occurrence=${one.occurrence}` : ''}`}
              className="font-semibold hover:underline"
            >
              {one.title}
            </Link>
            <span className="block text-ink-2">
              {formatSpan(one, me.zone, me.clock)}, from {one.organizer}
              {one.role === 'optional' ? ', optional' : ''}
            </span>
            {one.conflicts.length > 0 && (
              <span className="block font-semibold text-alpenglow">
                Conflicts with {one.conflicts.join(', ')}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function RepliesIWaitFor() {
  const me = useMe();
  const query = useQuery({
    queryKey: ['replies'],
    queryFn: () => readApi<{ meetings: MeetingReplies[] }>('/replies'),
  });
  const open = (query.data?.meetings ?? [])
    .map((meeting) => ({
      ...meeting,
      missing: meeting.replies.filter((one) => one.reply === 'needs-action'),
    }))
    .filter((meeting) => meeting.missing.length > 0);
  return (
    <section aria-labelledby="awaited">
      <h2 id="awaited" className="mb-2 text-[15px]">
        Replies you wait for
      </h2>
      {query.data && open.length === 0 && <p className="text-ink-2">Nobody owes you an answer.</p>}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      <ul>
        {open.slice(0, 6).map((meeting) => (
          <li key={meeting.eventId} className="border-t border-edge py-2 first:border-0">
            <Link to="/replies" className="font-semibold hover:underline">
              {meeting.title}
            </Link>
            <span className="block text-ink-2">
              {formatSpan(meeting, me.zone, me.clock)}:{' '}
              {meeting.missing.map((one) => one.name).join(', ')}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
