import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type {
  CancelEventRequest,
  ChangeEventRequest,
  CreateEventRequest,
  EventDetail,
} from '../../contract/events.ts';
import { formatSpan } from '../../core/time/format.ts';
import { errorText, readApi, sendApi } from '../app/api.ts';
import { useMe } from '../app/session.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Panel } from '../design/Panel.tsx';
import { Failure, Loading } from '../design/states.tsx';
import { REPLY_WORDS, ReplyMark } from '../invitations/replyWords.tsx';
import { EventForm, type Details } from './EventForm.tsx';

const BLANK: Details = {
  title: '',
  place: '',
  description: '',
  showsAs: 'busy',
  visibility: 'default',
};

/** Makes a new event at a time picked in the grid. */
export function NewEventPanel({
  start,
  end,
  allDay,
  onClose,
}: {
  start: number;
  end: number;
  allDay: boolean;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const make = useMutation({
    mutationFn: (request: CreateEventRequest) => sendApi<EventDetail>('POST', '/events', request),
    onSuccess: (event) => {
      void client.invalidateQueries({ queryKey: ['calendar'] });
      tellUser(
        event.notes[0] ?? `“${event.title}” is in your calendar.`,
        () => void undoCreate(event),
      );
      onClose();
    },
  });
  const undoCreate = async (event: EventDetail) => {
    await sendApi('POST', `/events/${event.id}/cancel`, {
      version: event.version,
      tell: 'nobody',
    } satisfies CancelEventRequest);
    await client.invalidateQueries({ queryKey: ['calendar'] });
  };
  return (
    <Panel open onClose={onClose} title="New event">
      <EventForm
        initial={BLANK}
        times={{ start, end, allDay }}
        action="Put it in my calendar"
        busy={make.isPending}
        error={make.error}
        isNew
        save={({ details, times }) => times && make.mutate({ ...details, times })}
      />
      <p className="mt-4 text-ink-2">
        To ask others and find a time for all,{' '}
        <Link className="font-semibold text-gentian underline" to="/plan">
          plan a meeting
        </Link>
        .
      </p>
    </Panel>
  );
}

/** An event in full: what it is, who comes; its organizer changes or cancels it here. */
export function EventPanel({ eventId, onClose }: { eventId: string; onClose: () => void }) {
  const query = useQuery({
    queryKey: ['calendar', 'event', eventId],
    queryFn: () => readApi<EventDetail>(`/events/${eventId}`),
  });
  return (
    <Panel open onClose={onClose} title={query.data?.title ?? 'Event'}>
      {query.isPending && <Loading what="the event" />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && <OpenEvent key={query.data.version} event={query.data} onClose={onClose} />}
    </Panel>
  );
}

function OpenEvent({ event, onClose }: { event: EventDetail; onClose: () => void }) {
  const me = useMe();
  const client = useQueryClient();
  const others = event.attendees.filter((one) => one.personId !== me.id);
  const [tell, setTell] = useState(true);
  const refresh = () => client.invalidateQueries({ queryKey: ['calendar'] });
  const telling = others.length > 0 && tell ? ('everyone' as const) : ('nobody' as const);

  const change = useMutation({
    mutationFn: (request: ChangeEventRequest) =>
      sendApi<EventDetail>('PATCH', `/events/${event.id}`, request),
    onSuccess: (changed) => {
      void refresh();
      tellUser(changed.notes[0] ?? `“${changed.title}” is changed.`);
      onClose();
    },
  });
  const cancel = useMutation({
    mutationFn: () =>
      sendApi<EventDetail>('POST', `/events/${event.id}/cancel`, {
        version: event.version,
        tell: telling,
      }),
    onSuccess: (cancelled) => {
      void refresh();
      tellUser(`“${event.title}” is cancelled.`, () => void restore(cancelled));
      onClose();
    },
  });
  const restore = async (cancelled: EventDetail) => {
    try {
      await sendApi('POST', `/events/${event.id}/restore`, {
        version: cancelled.version,
        tell: telling,
      });
      tellUser(`“${event.title}” is on again.`);
    } catch (error) {
      tellUser(errorText(error));
    }
    await refresh();
  };

  const whom = others.length === 1 ? others[0]!.name : `${others.length} people`;
  return (
    <div className="grid gap-5">
      <div>
        <p className="font-semibold">{formatSpan(event, me.zone, me.clock)}</p>
        {event.resources.length > 0 && (
          <p>{event.resources.map((place) => `${place.name}, ${place.site}`).join('; ')}</p>
        )}
        {event.notes.map((note) => (
          <p key={note} className="text-ink-2">
            {note}
          </p>
        ))}
        {event.status === 'cancelled' && <p className="font-semibold text-alpenglow">Cancelled</p>}
        {event.recurring && (
          <p className="text-ink-2">Part of a series; changes here are for all of it.</p>
        )}
        {event.myReply && event.organizer.id !== me.id && (
          <Link className="font-semibold text-gentian underline" to={`/invitations/${event.id}`}>
            Your answer: {REPLY_WORDS[event.myReply]}. See the invitation
          </Link>
        )}
      </div>
      {others.length > 0 && (
        <ul className="grid gap-1">
          {event.attendees.map((one) => (
            <li key={one.email} className="flex items-center gap-2">
              <ReplyMark reply={one.reply} />
              {one.name}
              <span className="text-ink-2">
                {one.role === 'organizer' ? 'organizer' : REPLY_WORDS[one.reply]}
              </span>
            </li>
          ))}
        </ul>
      )}
      {event.canChange && event.status === 'confirmed' && (
        <>
          {others.length > 0 && (
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={tell} onChange={(e) => setTell(e.target.checked)} />
              Tell {whom} about a change or cancellation
            </label>
          )}
          <EventForm
            initial={event}
            times={event}
            fixedTimes={event.recurring}
            action={
              others.length === 0
                ? 'Save'
                : tell
                  ? `Save and tell ${whom}`
                  : 'Save without telling anyone'
            }
            busy={change.isPending}
            error={change.error}
            save={({ details, times, instead }) =>
              change.mutate({
                version: event.version,
                ...details,
                ...(times && { times }),
                ...(instead && { resources: swapped(event, instead) }),
                tell: telling,
              })
            }
          />
          <Button look="danger" disabled={cancel.isPending} onClick={() => cancel.mutate()}>
            {event.recurring ? 'Cancel the whole series' : 'Cancel it'}
            {telling === 'everyone' ? ` and tell ${whom}` : ''}
          </Button>
          {cancel.isError && <Failure error={cancel.error} />}
        </>
      )}
      {!event.canChange && event.description && (
        <p className="whitespace-pre-line">{event.description}</p>
      )}
    </div>
  );
}

/** The event's places with the one that was refused replaced. */
const swapped = (event: EventDetail, way: { instead: number; resourceId: number }): number[] =>
  event.resources.map((place) => (place.id === way.instead ? way.resourceId : place.id));
