import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ChangeEventRequest, EventDetail, Scope } from '../../contract/events.ts';
import { ApiProblem, sendApi, useKeptText } from '../app/index.ts';
import { draftOf, repeatsOf, same } from './draft.ts';
import type { FormResult } from './EventForm.tsx';
import { useDraftForm } from './useDraftForm.ts';
import { useEventActions } from './useEventActions.ts';

/** An event that is being changed: its form's content, the part of a series meant, whom to tell. */
export function useEventDraft(event: EventDetail, onDone: (event: EventDetail) => void) {
  const actions = useEventActions();
  const name = `change ${event.id} ${event.series?.recurrenceId ?? ''}`;
  const form = useDraftForm(name, draftOf(event));
  const [scope, setScope] = useState<Scope>(event.series ? 'one' : 'all');
  const [tell, setTell] = useState(true);
  const [message, setMessage, messageSent] = useKeptText(`message ${name}`);
  const others = event.attendees.filter((one) => one.role !== 'organizer').length;
  const telling = others > 0 && tell ? ('everyone' as const) : ('nobody' as const);

  const change = useMutation({
    mutationFn: async (result: FormResult) => {
      const request = requestFor(event, result, scope);
      const personal = personalPart(event, result);
      if (personal) await sendApi('PUT', `/events/${event.id}/mine`, personal);
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
    scope,
    setScope,
    tell,
    setTell,
    message,
    setMessage,
    others,
    telling,
    change,
    actions,
  };
}

/** What changed of the event itself; null when nothing did. */
function requestFor(
  event: EventDetail,
  { draft, times, instead, dates }: FormResult,
  scope: Scope,
): ChangeEventRequest | null {
  const before = draftOf(event);
  const texts: Partial<ChangeEventRequest> = {};
  for (const field of ['title', 'place', 'description', 'agenda', 'notes', 'showsAs'] as const) {
    if (draft[field] !== before[field]) Object.assign(texts, { [field]: draft[field] });
  }
  if (draft.visibility !== before.visibility && scope !== 'one')
    texts.visibility = draft.visibility;
  const repeats = repeatsOf(draft.repeating);
  const asked: Partial<ChangeEventRequest> = {
    ...texts,
    // Times that nobody touched are left as they are, zone and all.
    ...(!same(draft.typed, before.typed) && { times }),
    ...(scope !== 'one' && !same(repeats, repeatsOf(before.repeating)) && { repeats }),
    ...(instead && {
      resources: event.resources.map((one) =>
        one.id === instead.instead ? instead.resourceId : one.id,
      ),
    }),
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
    ...(!same(draft.reminders, event.reminders) && { reminders: draft.reminders }),
  };
  return Object.keys(changed).length > 0 ? changed : null;
}
