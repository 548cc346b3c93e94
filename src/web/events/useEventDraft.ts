import { useMutation } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { ChangeEventRequest, Scope, NotifyScope } from '../../contract/events.ts';
import {
  DATE_FIELD_NAMES,
  FIELD_NAMES,
  pickFields,
  type MeetingFields,
} from '../../core/meetings/fields.ts';
import { resolveSpan } from '../../core/time/eventTimes.ts';
import type { Interval } from '../../core/time/interval.ts';
import { readTimes } from '../../core/time/typedTimes.ts';
import { dateAt } from '../../core/time/wall.ts';
import { ApiProblem, callApi, useKeptText, useMe } from '../client/index.ts';
import { type LineUpEntry, useGathering } from '../lineUp/index.ts';
import { useNowMinutes } from '../time/index.ts';
import type { FormResult } from './EventForm.tsx';
import { useDraftForm } from './useDraftForm.ts';
import { draftOf, repeatsOf, sameDraft, type Draft, useEventActions } from '../meetings/index.ts';

/** An event that is being changed: its form's content, the part of a series meant, whom to tell. */
export function useEventDraft(event: EventDetail, onDone: (event: EventDetail) => void) {
  const me = useMe();
  const actions = useEventActions();
  const name = `change ${event.id} ${event.series?.recurrenceId ?? ''}`;
  const before = draftOf(event);
  const form = useDraftForm(name, before);
  const [scope, setScope] = useState<Scope>(event.series ? 'one' : 'all');
  const [tell, setTell] = useState<NotifyScope>('everyone');
  const [message, setMessage, messageSent] = useKeptText(`message ${name}`);
  const draft = form.content;
  const { times } = readTimes(draft.typed, useNowMinutes(draft.typed.zone));
  const key = times ? JSON.stringify(times) : '';
  const span = useMemo<Interval | null>(
    () => (times ? resolveSpan({ ...times, fold: event.fold }) : null),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told by their content
    [key, event.fold],
  );
  const gathering = useGathering(draft.people, span, dateAt((span ?? event).start, me.zone), {
    eventId: event.id,
    occurrence: scope === 'one' ? (event.series?.recurrenceId ?? null) : null,
  });
  const places = new Set([
    ...event.resources.map((one) => one.id),
    ...gathering.members.flatMap((one) => (one.kind === 'resource' ? [one.id] : [])),
  ]);
  // Of a draft nobody has heard yet.
  const people = event.draft
    ? { all: 0, concerned: 0 }
    : peopleChanges(guestsIn(before, places), guestsIn(draft, places));
  const isPeopleChanged = !sameDraft(guestsIn(before, places), guestsIn(draft, places));
  const telling = people.all === 0 ? ('nobody' as const) : tell;

  const change = useMutation({
    mutationFn: async (result: FormResult) => {
      const request = requestFor(event, result, scope, places);
      const personal = personalPart(event, result);
      if (personal)
        await callApi('PUT /api/events/:id/mine', { params: { id: event.id }, body: personal });
      if (!request) {
        await actions.refresh();
        return event;
      }
      return actions.change(event.id, { ...request, tell: telling, message });
    },
    onSuccess: (changed) => {
      form.done();
      messageSent();
      onDone(changed);
    },
    // Somebody else was first: what they made of it is read, and stands beside what was typed here.
    onError: (error) => {
      if (error instanceof ApiProblem && error.body.code === 'stale') void actions.refresh();
    },
  });
  return {
    form,
    gathering,
    scope,
    setScope,
    tell,
    setTell,
    message,
    setMessage,
    people,
    /** Who is asked belongs to all dates or those that follow; it cannot be changed for one of them. */
    isRefused: isPeopleChanged && scope === 'one',
    /** People whose time is not read yet cannot be told from places. */
    isReady: draft.people.every((one) => one.email !== undefined || isKnown(one.id)),
    telling,
    change,
    actions,
  };

  function isKnown(id: number): boolean {
    return before.people.some((one) => one.id === id) || gathering.members.some((m) => m.id === id);
  }
}

const keyOf = (one: LineUpEntry) => one.email?.toLowerCase() ?? String(one.id);

/** The people of a draft, by what is sent of them. */
const guestsIn = (draft: Draft, places: ReadonlySet<number>): LineUpEntry[] =>
  draft.people.filter((one) => !places.has(one.id)).sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : 1));

/** How many a change may be told: all who were or will be asked, and of those who came or went. */
function peopleChanges(before: readonly LineUpEntry[], after: readonly LineUpEntry[]) {
  const [old, next] = [new Set(before.map(keyOf)), new Set(after.map(keyOf))];
  const all = new Set([...old, ...next]);
  const concerned = [...all].filter((key) => !old.has(key) || !next.has(key)).length;
  return { all: all.size, concerned };
}

/** What changed of the event itself; null when nothing did. */
function requestFor(
  event: EventDetail,
  { draft, times, instead, dates }: FormResult,
  scope: Scope,
  known: ReadonlySet<number>,
): ChangeEventRequest | null {
  // A place that is taken in another's stead has not been read yet.
  const places = new Set([...known, ...(instead ? [instead.resourceId] : [])]);
  const before = draftOf(event);
  const ofIt = scope === 'one' ? DATE_FIELD_NAMES : FIELD_NAMES;
  const changed = ofIt.filter((name) => draft[name] !== before[name]);
  const repeats = repeatsOf(draft.repeating);
  const guests = guestsIn(draft, places);
  const held = (of: Draft) => of.people.flatMap((one) => (places.has(one.id) ? [one.id] : []));
  const asked: Partial<ChangeEventRequest> = {
    ...(pickFields(changed, draft) as Partial<MeetingFields>),
    ...(!sameDraft(draft.rights, before.rights) && scope !== 'one' && { rights: draft.rights }),
    // Times that nobody touched are left as they are, zone and all.
    ...(!sameDraft(draft.typed, before.typed) && { times }),
    ...(scope !== 'one' && !sameDraft(repeats, repeatsOf(before.repeating)) && { repeats }),
    ...(!sameDraft(guests, guestsIn(before, places)) && {
      attendees: guests.map(({ id, email, role }) =>
        email ? { email, role } : { personId: id, role },
      ),
    }),
    ...(!sameDraft(held(draft), held(before)) && { resources: held(draft) }),
    ...(dates && { dates }),
  };
  if (Object.keys(asked).length === 0) return null;
  const occurrence = event.series?.recurrenceId;
  return {
    version: event.version,
    ...(event.series && { scope, ...(occurrence && { occurrence }) }),
    ...asked,
  };
}

/** What changed of my own about it; null when nothing did. */
function personalPart(event: EventDetail, { draft }: FormResult) {
  const changed = {
    ...(draft.categoryId !== event.categoryId && { categoryId: draft.categoryId }),
    ...(!sameDraft(draft.reminders, event.reminders) && { reminders: draft.reminders }),
  };
  return Object.keys(changed).length > 0 ? changed : null;
}
