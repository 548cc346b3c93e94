import { useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { CalendarResponse } from '../../contract/calendar.ts';
import type { CalendarItem, EventDetail } from '../../contract/eventDetail.ts';
import { formatSpan } from '../../core/time/format.ts';
import { Failure, useMe } from '../client/index.ts';
import { Button, LinkButton } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { Loading, Outline } from '../design/states.tsx';
import { CameByMail, AnswerHere, FitWords, REPLY_WORDS, useNews } from '../invitations/index.ts';
import { StewardsNote } from '../bookings/index.ts';
import { CommentsOn } from '../comments/index.ts';
import { AskAlso } from './AskAlso.tsx';
import { DraftState } from './DraftState.tsx';
import { ChangeForm } from './ChangeForm.tsx';
import { EventFacts } from './EventFacts.tsx';
import { planPath } from '../lineUp/index.ts';
import {
  CancelButton,
  copyOf,
  eventAddress,
  type Draft,
  useEvent,
  versionNow,
} from '../meetings/index.ts';

/** An event beside the calendar: what it is, who comes; its organizer changes or cancels it here. */
export function EventPanel({
  eventId,
  occurrence,
  onClose,
  onCopy,
}: {
  eventId: string;
  occurrence: string | null;
  onClose: () => void;
  onCopy: (draft: Draft) => void;
}) {
  const query = useEvent(eventId, occurrence);
  const item = useItemShown(eventId, occurrence);
  const shownAt = item && `[data-item="m${item.occurrenceId}"]`;
  // What was read before a change of one's own is not what is there: acting on it would be refused.
  const changedTo = useMemo(() => versionNow(eventId) ?? 0, [eventId]);
  const event = query.data && query.data.version >= changedTo ? query.data : null;
  return (
    <Panel open onClose={onClose} title={event?.title ?? item?.title ?? 'Event'} pointsAt={shownAt}>
      {!event && !query.isError && (item ? <Known item={item} /> : <Loading what="the event" />)}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {event && <OpenEvent event={event} onClose={onClose} onCopy={onCopy} />}
    </Panel>
  );
}

/** What the calendar knows of something of mine before all of it is read. */
function useItemShown(eventId: string, occurrence: string | null): CalendarItem | null {
  const client = useQueryClient();
  for (const [, data] of client.getQueriesData<CalendarResponse>({
    queryKey: ['GET /api/calendar'],
  })) {
    const item = data?.items.find(
      (one) => one.eventId === eventId && one.recurrenceId === occurrence,
    );
    if (item) return item;
  }
  return null;
}

function Known({ item }: { item: CalendarItem }) {
  const me = useMe();
  const place = [item.place, ...item.resources].filter(Boolean).join('; ');
  return (
    <div aria-busy="true">
      <p className="font-semibold">{formatSpan(item, me.zone, me.clock)}</p>
      {place && <p>{place}</p>}
      <Outline what="the event" rows={3} />
    </div>
  );
}

function OpenEvent({
  event,
  onClose,
  onCopy,
}: {
  event: EventDetail;
  onClose: () => void;
  onCopy: (draft: Draft) => void;
}) {
  const me = useMe();
  const [changing, setChanging] = useState(false);
  const invited = event.myReply && event.organizer.id !== me.id;
  if (changing) return <ChangeForm event={event} onDone={onClose} />;
  return (
    <div className="flex flex-1 flex-col gap-5">
      <EventFacts event={event} />
      {event.organizer.id === null && <CameByMail eventId={event.id} />}
      <StewardsNote event={event} />
      {event.draft && event.status === 'confirmed' && <DraftState event={event} onSent={onClose} />}
      {event.canInvite && !event.draft && event.status === 'confirmed' && <AskAlso event={event} />}
      {invited && event.status === 'confirmed' && <MyAnswer event={event} />}
      {/* At the bottom whatever comes above it, and whenever: what is about to be pressed stays there. By
          keys it comes before what is said about the event. */}
      <div className="sticky bottom-0 z-10 order-last -mx-6 mt-auto -mb-5 flex flex-wrap gap-2 border-t border-edge bg-paper px-6 py-4">
        {event.canChange && event.status === 'confirmed' && (
          <Button look={event.draft ? undefined : 'act'} onClick={() => setChanging(true)}>
            Change
          </Button>
        )}
        <LinkButton to={eventAddress(event.id, event.series?.recurrenceId ?? null)}>
          All its details
        </LinkButton>
        {event.canChange && event.status === 'confirmed' && !event.allDay && (
          <LinkButton
            to={planPath({ eventId: event.id, occurrence: event.series?.recurrenceId ?? null })}
          >
            Another time
          </LinkButton>
        )}
        <Button onClick={() => onCopy(copyOf(event, me.id))}>Copy</Button>
        {event.canCancel && event.status === 'confirmed' && (
          <CancelButton event={event} onDone={onClose} />
        )}
      </div>
      <CommentsOn event={event} />
    </div>
  );
}

/** What I answered, to be given or changed here; of a series it says for which dates. */
function MyAnswer({ event }: { event: EventDetail }) {
  const reply = event.myReply!;
  const date = event.series?.recurrenceId ?? null;
  const news = useNews();
  const waiting = news.data?.waiting.find(
    (one) => one.eventId === event.id && !one.for && (!one.occurrence || one.occurrence === date),
  );
  return (
    <section aria-label="My answer" className="grid gap-2 rounded-sm border border-edge p-3">
      <p className="font-semibold">
        {reply === 'needs-action'
          ? `${event.organizer.name} waits for your answer`
          : `Your answer: ${REPLY_WORDS[reply]}`}
      </p>
      {waiting && <FitWords invitation={waiting} />}
      <AnswerHere
        event={{ ...event, recurrenceId: date }}
        organizer={event.organizer.name}
        present={reply}
      />
      <Link
        className="font-semibold text-gentian underline"
        to={`/invitations/${event.id}${date ? `?occurrence=${date}` : ''}`}
      >
        See it beside my day
      </Link>
    </section>
  );
}
