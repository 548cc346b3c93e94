import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { Link } from 'react-router';
import type {
  CancelEventRequest,
  ChangeEventRequest,
  CreateEventRequest,
  EventDetail,
} from '../../contract/events.ts';
import { formatSpan } from '../../core/time/format.ts';
import { ApiProblem, errorText, readApi, sendApi } from '../app/api.ts';
import { useMe } from '../app/session.ts';
import { Button, Choice, Field, TextArea, TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Panel } from '../design/Panel.tsx';
import { Failure, Loading } from '../design/states.tsx';
import { REPLY_WORDS, ReplyMark } from '../invitations/replyWords.tsx';
import { takenIn, WaysOut } from '../places/WaysOut.tsx';
import { TimesFields } from './TimesFields.tsx';
import { readTimes, typedFrom, useTyped } from './useTyped.ts';

type Details = Pick<EventDetail, 'title' | 'place' | 'description' | 'showsAs' | 'visibility'>;

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
        save={(details, times) => times && make.mutate({ ...details, times })}
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
            save={(details, times) =>
              change.mutate({
                version: event.version,
                ...details,
                ...(times && { times }),
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

function EventForm({
  initial,
  times,
  fixedTimes = false,
  action,
  busy,
  error,
  save,
}: {
  initial: Details;
  times: { start: number; end: number; allDay: boolean };
  fixedTimes?: boolean;
  action: string;
  busy: boolean;
  error: unknown;
  save: (details: Details, times?: CreateEventRequest['times']) => void;
}) {
  const me = useMe();
  const [details, setDetails] = useState<Details>({
    title: initial.title,
    place: initial.place,
    description: initial.description,
    showsAs: initial.showsAs,
    visibility: initial.visibility,
  });
  const { typed, change, setTyped } = useTyped(
    typedFrom(times.start, times.end, me.zone, times.allDay),
  );
  const [tried, setTried] = useState(false);
  const set = (part: Partial<Details>) => setDetails((before) => ({ ...before, ...part }));
  const read = readTimes(typed, me.zone);
  const problem = error instanceof ApiProblem ? error : null;
  const taken = takenIn(error);
  const titleError = tried && !details.title.trim() ? 'must not be empty' : problem?.field('title');

  const submit = (event: FormEvent) => {
    event.preventDefault();
    setTried(true);
    if (!details.title.trim() || !read.times) return;
    if (fixedTimes) save(details);
    else save(details, read.times);
  };

  return (
    <form onSubmit={submit} noValidate className="grid gap-4">
      <Field label="Title" error={titleError}>
        <TextInput
          value={details.title}
          maxLength={200}
          aria-invalid={!!titleError}
          onChange={(event) => set({ title: event.target.value })}
          autoFocus
        />
      </Field>
      {!fixedTimes && <TimesFields typed={typed} change={change} errors={read.errors} />}
      <Field label="Place">
        <TextInput
          value={details.place}
          maxLength={200}
          onChange={(event) => set({ place: event.target.value })}
        />
      </Field>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Shows as">
          <Choice
            value={details.showsAs}
            onChange={(event) => set({ showsAs: event.target.value as Details['showsAs'] })}
          >
            <option value="busy">Busy</option>
            <option value="tentative">Tentative</option>
            <option value="away">Away</option>
            <option value="free">Free</option>
          </Choice>
        </Field>
        <Field label="Others see">
          <Choice
            value={details.visibility}
            onChange={(event) => set({ visibility: event.target.value as Details['visibility'] })}
          >
            <option value="default">What I share</option>
            <option value="public">Its title</option>
            <option value="private">Only that it is taken</option>
          </Choice>
        </Field>
      </div>
      <Field label="Description" error={problem?.field('description')}>
        <TextArea
          rows={3}
          maxLength={20000}
          value={details.description}
          onChange={(event) => set({ description: event.target.value })}
        />
      </Field>
      {taken ? (
        <WaysOut
          body={taken}
          busy={busy}
          take={(way) => way.kind === 'time' && setTyped(typedFrom(way.start, way.end, me.zone))}
        />
      ) : (
        Boolean(error) && <Failure error={error} />
      )}
      <Button look="act" type="submit" disabled={busy}>
        {action}
      </Button>
    </form>
  );
}
