import type { EventDetail } from '../../contract/events.ts';
import type { Me } from '../../contract/session.ts';
import { parseRule } from '../../core/recurrence/rule.ts';
import { ruleSentence } from '../../core/recurrence/sentence.ts';
import { timingInterval } from '../../core/recurrence/series.ts';
import { resolveSpan } from '../../core/time/eventTimes.ts';
import { wallTimeAt, type WallTime } from '../../core/time/wall.ts';
import { Sharing } from '../sharing/service.ts';
import { seesEverything } from '../../core/availability/busy.ts';
import type { Database } from '../db/transaction.ts';
import { Problem } from '../http/problem.ts';
import { isSeries, type EventRecord } from './model.ts';
import { readAttachments, readPersonal } from './personalQueries.ts';
import { readEvent } from './queries.ts';

const noSuchEvent = () =>
  new Problem(404, 'no-such-event', 'There is no such event, or it is not shared with you.', {
    fields: [{ field: 'id', message: 'must be the id of an event that is shared with you' }],
  });

export const mayChange = (event: EventRecord, me: Me): boolean => event.organizer.id === me.id;

const takesPart = (event: EventRecord, me: Me): boolean =>
  event.attendees.some((attendee) => attendee.personId === me.id);

/**
 * An event that the asker may read.
 * @throws Problem 404 when there is none or it is not shared, which look the same
 */
export async function visibleEvent(
  db: Database,
  me: Me,
  id: string,
  now: number,
  at?: WallTime,
): Promise<EventRecord> {
  const event = await readEvent(db, id, now, at);
  if (!event) throw noSuchEvent();
  if (takesPart(event, me)) return event;
  const sharing = await Sharing.of(db, me, [event.organizer.id]);
  if (!seesEverything(sharing.level(event.organizer.id), event.visibility)) throw noSuchEvent();
  return event;
}

/**
 * An event that the asker may change.
 * @throws Problem 404 when it may not even be read, 403 when it may only be read
 */
export async function ownEvent(
  db: Database,
  me: Me,
  id: string,
  now: number,
): Promise<EventRecord> {
  const event = await visibleEvent(db, me, id, now);
  if (!mayChange(event, me)) {
    throw new Problem(403, 'not-organizer', `Only ${event.organizer.name} can change this event.`);
  }
  return event;
}

/**
 * The event as the asker sees it, with the occurrence that is in view; notes of replies are for the
 * organizer and whoever wrote them.
 */
export async function detailFor(db: Database, event: EventRecord, me: Me): Promise<EventDetail> {
  const [personal, attachments] = await Promise.all([
    readPersonal(db, event.id, me.id),
    readAttachments(db, event.id),
  ]);
  const endsAt = wallTimeAt(event.end, event.endZone ?? event.zone);
  const mine = mayChange(event, me);
  return {
    id: event.id,
    uid: event.uid,
    sequence: event.sequence,
    version: event.version,
    title: event.title,
    description: event.description,
    agenda: event.agenda,
    notes: event.notes,
    place: event.place,
    start: event.start,
    end: event.end,
    startsAt: isSeries(event) ? wallTimeAt(event.start, event.zone) : event.startsAt,
    endsAt,
    zone: event.zone,
    endZone: event.endZone,
    fold: event.fold,
    allDay: event.allDay,
    showsAs: event.showsAs,
    visibility: event.visibility,
    status: event.status,
    series: seriesOf(event),
    organizer: { id: event.organizer.id, name: event.organizer.name },
    attendees: event.attendees.map((attendee) => ({
      ...attendee,
      note: mine || attendee.personId === me.id ? attendee.note : '',
    })),
    resources: event.resources,
    canChange: mine,
    myReply: event.attendees.find((attendee) => attendee.personId === me.id)?.reply ?? null,
    ...personal,
    attachments,
    clockNotes: event.allDay
      ? []
      : resolveSpan({ ...event, startsAt: wallTimeAt(event.start, event.zone), endsAt }).notes,
  };
}

function seriesOf(event: EventRecord): EventDetail['series'] {
  if (!isSeries(event)) return null;
  const first = timingInterval(event.whole);
  const overrides = (cancelled: boolean) =>
    event.overrides.filter((one) => one.cancelled === cancelled).map((one) => one.recurrenceId);
  return {
    rule: event.rule,
    sentence: ruleSentence(parseRule(event.rule), event.whole.startsAt),
    startsAt: event.whole.startsAt,
    endsAt: wallTimeAt(first.end, event.endZone ?? event.zone),
    allDay: event.whole.allDay,
    except: event.exceptAt,
    cancelled: overrides(true),
    changed: overrides(false),
    recurrenceId: event.recurrenceAt,
  };
}
