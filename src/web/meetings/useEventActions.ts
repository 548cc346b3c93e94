import type { InviteRequest } from '../../contract/asking.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type {
  CancelEventRequest,
  ChangeEventRequest,
  CreateEventRequest,
  SendEventRequest,
} from '../../contract/events.ts';
import { useRef } from 'react';
import { same } from '../../core/same.ts';
import {
  errorText,
  isUnreachable,
  offerUndo,
  undoable,
  useChanged,
  callApi,
} from '../client/index.ts';
import { tellUser } from '../design/notices.ts';
import { offerEventUndo, versionNow } from './eventUndo.ts';

/** What makes one event of another; null where they differ in what no change can make. */
function changeBetween(
  before: CreateEventRequest,
  after: CreateEventRequest,
): Omit<ChangeEventRequest, 'version'> | null {
  const fixed = ({ draft, dates, moving, send, reminders, ...one }: CreateEventRequest) => [
    [draft, dates, moving, send, reminders],
    [one.for, one.categoryId, one.forStewards],
  ];
  if (!same(fixed(before), fixed(after))) return null;
  const {
    draft: _draft,
    dates: _dates,
    moving: _moving,
    send: _send,
    reminders: _reminders,
    for: _for,
    categoryId: _category,
    forStewards: _stewards,
    ...change
  } = after;
  return change;
}

type Made = EventDetail & { undo?: { id: string; version: number } };

/** Makes, changes and cancels events; each says what it did and can be taken back. */
export function useEventActions() {
  const changed = useChanged();
  const refresh = () => changed('calendar');

  /** What was sent and may have been made, since its answer was lost. */
  const lost = useRef<CreateEventRequest | null>(null);
  const make = async (request: CreateEventRequest): Promise<EventDetail> => {
    lost.current = request;
    try {
      const event = await callApi('POST /api/events', { body: request });
      lost.current = null;
      return event;
    } catch (error) {
      if (!isUnreachable(error)) lost.current = null;
      throw error;
    }
  };

  /** Makes an event; what the same form sent before is not made beside it, but becomes it. */
  const makeOnce = async (request: CreateEventRequest): Promise<EventDetail> => {
    const before = lost.current;
    if (!before || same(before, request)) return make(request);
    // Sent again as it was, it is made once, whether it was made already or not.
    const made = await make(before);
    const change = changeBetween(before, request);
    if (change)
      return callApi('PATCH /api/events/:id', {
        params: { id: made.id },
        body: { ...change, version: made.version },
      });
    await callApi('POST /api/events/:id/cancel', {
      params: { id: made.id },
      body: { version: made.version },
    });
    return make(request);
  };

  const create = async (request: CreateEventRequest): Promise<EventDetail> => {
    const event = await makeOnce(request);
    void refresh();
    const guests = request.send === false || request.draft ? 0 : (request.attendees?.length ?? 0);
    const done =
      guests > 0
        ? `“${event.title}” is sent to ${guests === 1 ? '1 person' : `${guests} people`}.`
        : event.draft
          ? `“${event.title}” is kept as a draft; nobody else sees it.`
          : `“${event.title}” is in your calendar.`;
    const text = event.clockNotes[0] ?? done;
    const tell = guests > 0 ? 'everyone' : 'nobody';
    offerUndo(text, async () => {
      await callApi('POST /api/events/:id/cancel', {
        params: { id: event.id },
        body: {
          version: versionNow(event.id) ?? event.version,
          tell,
        } satisfies CancelEventRequest,
      }).catch((error: unknown) => tellUser(errorText(error)));
      await refresh();
    });
    return event;
  };

  const change = async (id: string, request: ChangeEventRequest, done?: string): Promise<Made> => {
    const event = await callApi('PATCH /api/events/:id', { params: { id }, body: request });
    void refresh();
    const text = event.clockNotes[0] ?? done ?? `“${event.title}” is changed.`;
    offerEventUndo(
      text,
      event.undo ?? { id, version: event.version },
      request.tell ?? 'everyone',
      refresh,
    );
    return event;
  };

  /** Asks more people; only they are told. */
  const invite = async (
    { id, title }: Pick<EventDetail, 'id' | 'title'>,
    attendees: InviteRequest['attendees'],
    names: string,
  ): Promise<Made> => {
    const event = await callApi('POST /api/events/:id/invite', {
      params: { id },
      body: {
        attendees,
      } satisfies InviteRequest,
    });
    void refresh();
    const text = `${names} ${attendees.length === 1 ? 'is' : 'are'} asked to “${title}”.`;
    offerEventUndo(text, event.undo ?? { id, version: event.version }, 'concerned', refresh);
    return event;
  };

  /** Sends a draft to those it names. */
  const send = async (id: string, request: SendEventRequest): Promise<Made> => {
    const event = await callApi('POST /api/events/:id/send', { params: { id }, body: request });
    void refresh();
    void changed('meeting');
    const count = event.attendees.length - 1;
    offerEventUndo(
      count > 0
        ? `“${event.title}” is sent to ${count === 1 ? '1 person' : `${count} people`}.`
        : `“${event.title}” is in your calendar.`,
      event.undo ?? { id, version: event.version },
      'everyone',
      refresh,
    );
    return event;
  };

  const cancel = async (id: string, request: CancelEventRequest, title: string): Promise<void> => {
    const event = await callApi('POST /api/events/:id/cancel', { params: { id }, body: request });
    void refresh();
    const what = { one: 'On that date', following: 'From that date on', all: '' }[
      request.scope ?? 'all'
    ];
    offerEventUndo(
      what ? `${what} “${title}” is cancelled.` : `“${title}” is cancelled.`,
      { id, version: event.version },
      request.tell ?? 'everyone',
      refresh,
    );
  };

  return {
    create: (...args: Parameters<typeof create>) => undoable(create(...args)),
    change: (...args: Parameters<typeof change>) => undoable(change(...args)),
    invite: (...args: Parameters<typeof invite>) => undoable(invite(...args)),
    send: (...args: Parameters<typeof send>) => undoable(send(...args)),
    cancel: (...args: Parameters<typeof cancel>) => undoable(cancel(...args)),
    refresh,
  };
}
