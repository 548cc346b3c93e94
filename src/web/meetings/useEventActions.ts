import type { InviteRequest } from '../../contract/asking.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type {
  CancelEventRequest,
  ChangeEventRequest,
  CreateEventRequest,
  SendEventRequest,
} from '../../contract/events.ts';
import { errorText, offerUndo, undoable, useChanged, callApi } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';
import { offerEventUndo, versionNow } from './eventUndo.ts';

type Made = EventDetail & { undo?: { id: string; version: number } };

/** Makes, changes and cancels events; each says what it did and can be taken back. */
export function useEventActions() {
  const changed = useChanged();
  const refresh = () => changed('calendar');

  const create = async (request: CreateEventRequest): Promise<EventDetail> => {
    const event = await callApi('POST /api/events', { body: request });
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
