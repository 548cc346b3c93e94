import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { ChangeEventRequest } from '../../contract/events.ts';
import type { BoardBooking, BoardPlace } from '../../contract/places.ts';
import { formatSpan } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { callApi, errorText, useMe } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';
import { AskDialog, type Draft, type Question, useEventActions } from '../meetings/index.ts';

/**
 * Puts a booking of mine at another time or into another place, in one step that keeps the old one
 * until the new one is had. What touches others or a series asks first.
 */
export function useMoveBooking(zone: string) {
  const me = useMe();
  const actions = useEventActions();
  const navigate = useNavigate();
  const [asked, setAsked] = useState<Question | null>(null);

  const move = async (booking: BoardBooking, span: Interval, place: BoardPlace) => {
    if (!booking.eventId) return;
    const { occurrence } = booking;
    const event = await callApi('GET /api/events/:id', {
      params: { id: booking.eventId },
      query: { occurrence: occurrence ?? undefined },
    }).catch((error: unknown) => {
      tellUser(errorText(error));
      return null;
    });
    if (!event) return;
    const times = {
      startsAt: wallTimeAt(span.start, event.zone),
      endsAt: wallTimeAt(span.end, event.endZone ?? event.zone),
      zone: event.zone,
      endZone: event.endZone,
      allDay: false,
    };
    const resources = [
      ...new Set(event.resources.map(({ id }) => (id === booking.resourceId ? place.id : id))),
    ];
    const where = place.id === booking.resourceId ? '' : `${place.name}, `;
    const to = `${where}${formatSpan(span, zone, me.clock)}`;
    const act: Question['act'] = ({ scope, tell, message }) => {
      const change: ChangeEventRequest = {
        version: event.version,
        ...(occurrence && { scope, occurrence }),
        ...(booking.start !== span.start || booking.end !== span.end ? { times } : {}),
        ...(where && { resources }),
        tell,
        message,
      };
      actions.change(event.id, change, `“${event.title}” is now ${to}.`).catch((error: unknown) => {
        tellUser(errorText(error));
        void actions.refresh();
      });
    };
    const others = event.draft ? 0 : event.attendees.length - 1;
    if (others <= 0 && occurrence === null)
      return act({ scope: 'all', tell: 'nobody', message: '' });
    setAsked({
      title: `Move “${event.title}” to ${to}?`,
      seriesStart: occurrence === null ? null : booking.start,
      others: Math.max(0, others),
      verb: 'Move it',
      act,
    });
  };
  return {
    move,
    /** A copy is made where all of it can be seen. */
    copy: (draft: Draft) => void navigate('/events/new', { state: { draft } }),
    question: asked && <AskDialog question={asked} onClose={() => setAsked(null)} />,
  };
}
