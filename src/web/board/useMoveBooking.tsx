import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { ChangeEventRequest } from '../../contract/events.ts';
import type { BoardBooking, BoardPlace } from '../../contract/places.ts';
import { formatSpan } from '../../core/time/format.ts';
import { grouped } from '../../core/grouped.ts';
import { contains, type Interval } from '../../core/time/interval.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { isTitleOfBooking } from '../../core/meetings/ownTitle.ts';
import { listNames } from '../../core/planner/words.ts';
import { callApi, doInOrder, may, useChanged, useDrawn, useMe, useNow } from '../client/index.ts';
import {
  AskDialog,
  type Draft,
  type Question,
  useEventActions,
  versionNow,
} from '../meetings/index.ts';
import { pastWords } from '../time/index.ts';

/** Where a booking is drawn until the server has it. */
type BookingAt = Pick<BoardBooking, 'start' | 'end' | 'resourceId'>;

/** What bookings are called that are drawn elsewhere than they were read. */
const names = new WeakMap<BoardBooking, string>();

/** A booking's name; of what has several places, with the place. */
const nameOf = (booking: BoardBooking, isOneOfSome: boolean): string =>
  [booking.eventId, booking.occurrence, isOneOfSome && booking.resourceId]
    .filter(Boolean)
    .join(' ');

/** Bookings as they are drawn while what was done to them is under way. */
export function useDrawnBookings(read: readonly BoardBooking[]): readonly BoardBooking[] {
  const drawnAt = useDrawn<BookingAt>();
  return useMemo(() => {
    const own = grouped(
      read.filter((one) => one.mine && one.eventId !== null),
      (one) => nameOf(one, false),
    );
    return read.map((one) => {
      if (!one.mine || one.eventId === null) return one;
      const name = nameOf(one, own.get(nameOf(one, false))!.length > 1);
      const as = drawnAt(name);
      const shown = as ? { ...one, ...as } : one;
      names.set(shown, name);
      return shown;
    });
  }, [read, drawnAt]);
}

/**
 * Puts a booking of mine at another time or into another place, in one step that keeps the old one
 * until the new one is had. What touches others or a series, takes other places along, loses a steward’s
 * agreement or lies in the past asks first.
 */
export function useMoveBooking(zone: string) {
  const me = useMe();
  const now = useNow();
  const actions = useEventActions();
  const changed = useChanged();
  const navigate = useNavigate();
  const [asked, setAsked] = useState<Question | null>(null);

  const move = (booking: BoardBooking, span: Interval, place: BoardPlace) => {
    const { eventId, occurrence } = booking;
    if (!eventId) return;
    const isElsewhere = place.id !== booking.resourceId;
    const isAnotherTime = booking.start !== span.start || booking.end !== span.end;
    const to = `${isElsewhere ? `${place.name}, ` : ''}${formatSpan(span, zone, me.clock)}`;
    const change = async (
      event: EventDetail,
      { scope, tell, message }: Parameters<Question['act']>[0],
    ) => {
      const request: ChangeEventRequest = {
        version: Math.max(event.version, versionNow(event.id) ?? 0),
        ...(occurrence && { scope, occurrence }),
        ...(isAnotherTime && { times: timesOf(event, span) }),
        ...(isElsewhere && { resources: withPlace(event, booking.resourceId, place.id) }),
        ...{ tell, message },
      };
      const kept = event.resources.filter(({ id }) => id !== booking.resourceId && id !== place.id);
      const stays =
        isElsewhere && kept.length > 0
          ? ` It stays in ${listNames(
              kept.map((one) => one.name),
              3,
            )}.`
          : '';
      await actions.change(event.id, request, `${calledOf(event)} is now ${to}.${stays}`);
    };
    const inOrder = (run: () => Promise<unknown>) =>
      void doInOrder<BookingAt>({
        on: eventId,
        draws: {
          thing: names.get(booking) ?? nameOf(booking, false),
          as: { start: span.start, end: span.end, resourceId: place.id },
        },
        run,
        refresh: () => changed('calendar', 'resource'),
      });
    const remarksOn = (event: EventDetail): string[] => {
      const along = event.resources.filter(({ id }) => id !== booking.resourceId);
      const names = listNames(
        along.map((one) => one.name),
        3,
      );
      const past = booking.start === span.start ? null : pastWords(span, now);
      return [
        past && `${past}.`,
        isAnotherTime &&
          along.length > 0 &&
          `${names} ${along.length === 1 ? 'moves' : 'move'} with it.`,
        may(me, 'exceed', place.id) ? null : agreementWords(booking, span, place),
      ].filter((words) => typeof words === 'string');
    };
    // As the event is when its turn comes: what was done to it before is one’s own.
    inOrder(async () => {
      const event = await callApi('GET /api/events/:id', {
        params: { id: eventId },
        query: { occurrence: occurrence ?? undefined },
      });
      const others = event.draft ? 0 : Math.max(0, event.attendees.length - 1);
      const remarks = remarksOn(event);
      if (others === 0 && occurrence === null && remarks.length === 0)
        return change(event, { scope: 'all', tell: 'nobody', message: '' });
      setAsked({
        title: `Move ${calledOf(event, 'your')} to ${to}?`,
        seriesStart: occurrence === null ? null : booking.start,
        ...{ others, verb: 'Move it', remarks },
        act: (answer) => inOrder(() => change(event, answer)),
      });
    });
  };
  return {
    move,
    /** A copy is made where all of it can be seen. */
    copy: (draft: Draft) => void navigate('/events/new', { state: { draft } }),
    question: asked && <AskDialog question={asked} onClose={() => setAsked(null)} />,
  };
}

/** What it is called; the name that a place gave it is none once it has another. */
const calledOf = ({ title }: EventDetail, your = 'Your'): string =>
  isTitleOfBooking(title) ? `${your} booking` : `“${title}”`;

const timesOf = ({ zone, endZone }: EventDetail, span: Interval): ChangeEventRequest['times'] => ({
  startsAt: wallTimeAt(span.start, zone),
  endsAt: wallTimeAt(span.end, endZone ?? zone),
  ...{ zone, endZone, allDay: false },
});

/** What it has, with one place for another. */
const withPlace = ({ resources }: EventDetail, from: number, to: number): number[] => [
  ...new Set(resources.map(({ id }) => (id === from ? to : id))),
];

/** What becomes of a steward’s agreement, or that there is one to ask for; null where it is nothing new. */
function agreementWords(before: BoardBooking, span: Interval, to: BoardPlace): string | null {
  if (!to.rules.approval) return null;
  if (before.resourceId !== to.id)
    return `${to.name} needs a steward’s agreement: it is held for you until then.`;
  if (before.state === 'requested' || contains(before, span)) return null;
  return `${to.name} was agreed to for the time it has now: it is held, and asked for anew.`;
}
