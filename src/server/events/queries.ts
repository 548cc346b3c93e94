import type { EventAttendee } from '../../contract/events.ts';
import { timingInterval, type EventTiming } from '../../core/recurrence/series.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { occurrenceOf, timingOf, type EventRecord, type ReservedResource } from './model.ts';
import { readOverrides } from './overrideQueries.ts';

type EventRow = Omit<
  EventRecord,
  | 'organizer'
  | 'attendees'
  | 'resources'
  | 'furtherResources'
  | 'overrides'
  | 'start'
  | 'end'
  | 'whole'
> & {
  start: number | null;
  end: number | null;
  organizer_id: number;
  organizer_name: string;
  organizer_email: string;
  organizer_zone: string;
};

/**
 * The event with its people and resources; null when there is none.
 * @param at the occurrence of a series to be in view; else the one that is next at `now`, or the last
 */
export async function readEvent(
  db: Database,
  id: string,
  now: number,
  at?: WallTime,
): Promise<EventRecord | null> {
  const { rows } = await db.query<EventRow>(
    `select event.id, event.uid, event.sequence, event.version, event.title, event.description,
            event.place, event.agenda, event.notes, event.starts_at as "startsAt", event.fold,
            event.length_minutes as "lengthMinutes", event.zone, event.end_zone as "endZone",
            event.all_day as "allDay", event.rule, event.except_at::text[] as "exceptAt",
            event.shows_as as "showsAs", event.visibility, event.status,
            event.cancelled_at as "cancelledAt", event.kept_until as "keptUntil",
            first.recurrence_at as "recurrenceAt", first.starts_at as start, first.ends_at as "end",
            subject.id as organizer_id, subject.name as organizer_name,
            person.email as organizer_email, person.zone as organizer_zone
     from event
     join subject on subject.id = event.organizer_id
     join person on person.subject_id = event.organizer_id
     left join lateral (select recurrence_at, starts_at, ends_at from occurrence
                        where event_id = event.id
                        order by ends_at > $2 desc, abs(extract(epoch from starts_at - $2)) limit 1)
       first on true
     where event.id = $1`,
    [id, new Date(now)],
  );
  const row = rows[0];
  if (!row) return null;
  const { organizer_id, organizer_name, organizer_email, organizer_zone, ...event } = row;
  const overrides = row.rule === null ? [] : await readOverrides(db, id);
  const [attendees, reserved] = await Promise.all([readAttendees(db, id), readReserved(db, id)]);
  const span = timingInterval(event);
  const record: EventRecord = {
    ...event,
    // A series of which every occurrence was cancelled has none in view.
    start: event.start ?? span.start,
    end: event.end ?? span.end,
    whole: timingOf(event),
    exceptAt: event.exceptAt.map((text) => text.slice(0, 16).replace(' ', 'T')),
    overrides,
    organizer: {
      id: organizer_id,
      name: organizer_name,
      email: organizer_email,
      zone: organizer_zone,
    },
    attendees,
    resources: reserved.filter((one) => one.always).map(withoutAlways),
    furtherResources: reserved.filter((one) => !one.always).map(withoutAlways),
  };
  return at && record.rule !== null ? occurrenceOf(record, at) : record;
}

const withoutAlways = ({ id, name, site, seats }: ReservedResource): ReservedResource => ({
  id,
  name,
  site,
  seats,
});

async function readAttendees(db: Database, eventId: string): Promise<EventAttendee[]> {
  const { rows } = await db.query<EventAttendee>(
    `select person_id as "personId", name, email, role, reply, note,
            invited_at as "invitedAt", replied_at as "repliedAt"
     from attendee where event_id = $1
     order by role = 'organizer' desc, role = 'required' desc, name`,
    [eventId],
  );
  return rows;
}

async function readReserved(
  db: Database,
  eventId: string,
): Promise<(ReservedResource & { always: boolean })[]> {
  const { rows } = await db.query<ReservedResource & { always: boolean }>(
    `select subject.id, subject.name, site.name as site, resource.capacity as seats, wanted.always
     from (select resource_id, bool_or(always) as always
           from (select resource_id, true as always from reservation where event_id = $1
                 union all
                 select unnest(resources), false from occurrence_override where event_id = $1) each
           group by resource_id) wanted
     join subject on subject.id = wanted.resource_id
     join resource on resource.subject_id = subject.id
     join site on site.id = resource.site_id
     order by subject.name`,
    [eventId],
  );
  return rows;
}

/** Holds an event against other changes until the transaction ends. */
export async function lockEvent(tx: Transaction, id: string): Promise<void> {
  await tx.query('select 1 from event where id = $1 for no key update', [id]);
}

/** Everything about an event that it says of itself. */
export type EventContent = EventTiming &
  Pick<
    EventRecord,
    | 'title'
    | 'description'
    | 'place'
    | 'agenda'
    | 'notes'
    | 'endZone'
    | 'rule'
    | 'exceptAt'
    | 'showsAs'
    | 'visibility'
  >;

const contentValues = (event: EventContent) => [
  event.title,
  event.description,
  event.place,
  event.agenda,
  event.notes,
  event.startsAt,
  event.fold,
  event.lengthMinutes,
  event.zone,
  event.endZone,
  event.allDay,
  event.rule,
  event.exceptAt,
  event.showsAs,
  event.visibility,
];

export async function insertEvent(
  tx: Transaction,
  event: EventContent,
  by: { organizerId: number; createdBy: number; uid: string; now: number },
): Promise<string> {
  const { rows } = await tx.query<{ id: string }>(
    `insert into event (title, description, place, agenda, notes, starts_at, fold, length_minutes,
                        zone, end_zone, all_day, rule, except_at, shows_as, visibility,
                        uid, organizer_id, created_by, created_at, updated_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19, $19)
     returning id`,
    [...contentValues(event), by.uid, by.organizerId, by.createdBy, new Date(by.now)],
  );
  return rows[0]!.id;
}

/** Keeps an event's content, status and sequence as a new version. */
export async function updateEvent(
  tx: Transaction,
  event: EventContent & Pick<EventRecord, 'id' | 'sequence' | 'status'>,
  now: number,
): Promise<void> {
  await tx.query(
    `update event set title = $1, description = $2, place = $3, agenda = $4, notes = $5,
                      starts_at = $6, fold = $7, length_minutes = $8, zone = $9, end_zone = $10,
                      all_day = $11, rule = $12, except_at = $13, shows_as = $14, visibility = $15,
                      sequence = $17, status = $18, version = version + 1, updated_at = $19,
                      cancelled_at = case when $18 = 'confirmed' then null
                                          else coalesce(cancelled_at, $19) end
     where id = $16`,
    [...contentValues(event), event.id, event.sequence, event.status, new Date(now)],
  );
}

export async function deleteEvent(tx: Transaction, id: string): Promise<void> {
  await tx.query('delete from event where id = $1', [id]);
}

export async function insertAttendees(
  tx: Transaction,
  eventId: string,
  attendees: readonly Pick<EventAttendee, 'personId' | 'name' | 'email' | 'role' | 'reply'>[],
  now: number,
): Promise<void> {
  await tx.query(
    `insert into attendee (event_id, person_id, name, email, role, reply, invited_at)
     select $1, person_id, name, email, role, reply, $7
     from unnest($2::int[], $3::text[], $4::text[], $5::text[], $6::text[])
       as new (person_id, name, email, role, reply)`,
    [
      eventId,
      attendees.map((attendee) => attendee.personId),
      attendees.map((attendee) => attendee.name),
      attendees.map((attendee) => attendee.email),
      attendees.map((attendee) => attendee.role),
      attendees.map((attendee) => attendee.reply),
      new Date(now),
    ],
  );
}

/** After a move everyone is asked again. */
export async function resetReplies(tx: Transaction, eventId: string, now: number): Promise<void> {
  await tx.query(
    `update attendee set reply = 'needs-action', note = '', replied_at = null, invited_at = $2
     where event_id = $1 and role <> 'organizer'`,
    [eventId, new Date(now)],
  );
  await tx.query('delete from occurrence_reply where event_id = $1', [eventId]);
}

export async function replaceReservations(
  tx: Transaction,
  eventId: string,
  resourceIds: readonly number[],
): Promise<void> {
  await tx.query('delete from reservation where event_id = $1', [eventId]);
  await tx.query('insert into reservation (event_id, resource_id) select $1, unnest($2::int[])', [
    eventId,
    resourceIds,
  ]);
}

/** Gives a part split off a series the people, resources and personal things of the whole. */
export async function copyBelongings(
  tx: Transaction,
  fromId: string,
  toId: string,
  firstOccurrence: WallTime,
): Promise<void> {
  await tx.query(
    `insert into attendee (event_id, person_id, email, name, role, reply, note, invited_at, replied_at)
     select $2, person_id, email, name, role, reply, note, invited_at, replied_at
     from attendee where event_id = $1`,
    [fromId, toId],
  );
  await tx.query(
    'insert into reservation (event_id, resource_id) select $2, resource_id from reservation where event_id = $1',
    [fromId, toId],
  );
  await tx.query(
    `insert into event_category (event_id, person_id, category_id)
     select $2, person_id, category_id from event_category where event_id = $1`,
    [fromId, toId],
  );
  await tx.query(
    `insert into reminder (event_id, person_id, minutes_before, means)
     select $2, person_id, minutes_before, means from reminder where event_id = $1`,
    [fromId, toId],
  );
  await tx.query(
    `insert into attachment (event_id, file_id, name, added_by, added_at)
     select $2, file_id, name, added_by, added_at from attachment where event_id = $1`,
    [fromId, toId],
  );
  await tx.query(
    `insert into occurrence_reply (event_id, recurrence_at, attendee_id, reply, note, asked_at, replied_at)
     select $2, old.recurrence_at, attendee.id, old.reply, old.note, old.asked_at, old.replied_at
     from occurrence_reply old
     join attendee before on before.id = old.attendee_id
     join attendee on attendee.event_id = $2 and lower(attendee.email) = lower(before.email)
     where old.event_id = $1 and old.recurrence_at >= $3`,
    [fromId, toId, firstOccurrence],
  );
}

export async function insertLog(
  tx: Transaction,
  entry: { at: number; actorId: number | null; action: string; eventId: string; details?: unknown },
): Promise<void> {
  await tx.query(
    'insert into action_log (at, actor_id, action, event_id, details) values ($1, $2, $3, $4, $5)',
    [
      new Date(entry.at),
      entry.actorId,
      entry.action,
      entry.eventId,
      JSON.stringify(entry.details ?? {}),
    ],
  );
}
