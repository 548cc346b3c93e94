import type { EventAttendee, EventTimes, NewEvent } from '../../contract/events.ts';
import type { ResolvedSpan } from '../../core/time/eventTimes.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import type { EventRecord } from './model.ts';

type EventRow = Omit<EventRecord, 'organizer' | 'attendees' | 'resources'> & {
  organizer_id: number;
  organizer_name: string;
  organizer_email: string;
  organizer_zone: string;
};

/**
 * The event with its people and resources; null when there is none. Of a series, `start` and `end`
 * are those of the occurrence that is next at `now`, or of the last one.
 */
export async function readEvent(
  db: Database,
  id: string,
  now: number,
): Promise<EventRecord | null> {
  const { rows } = await db.query<EventRow>(
    `select event.id, event.uid, event.sequence, event.version, event.title, event.description,
            event.place, event.starts_at as "startsAt", event.fold,
            event.length_minutes as "lengthMinutes", event.zone, event.all_day as "allDay",
            event.rule, event.except_at::text[] as "exceptAt", event.shows_as as "showsAs",
            event.visibility, event.status, first.starts_at as start, first.ends_at as "end",
            subject.id as organizer_id, subject.name as organizer_name,
            person.email as organizer_email, person.zone as organizer_zone
     from event
     join subject on subject.id = event.organizer_id
     join person on person.subject_id = event.organizer_id
     join lateral (select starts_at, ends_at from occurrence
                   where event_id = event.id
                   order by ends_at > $2 desc, abs(extract(epoch from starts_at - $2)) limit 1)
       first on true
     where event.id = $1`,
    [id, new Date(now)],
  );
  const row = rows[0];
  if (!row) return null;
  const { organizer_id, organizer_name, organizer_email, organizer_zone, ...event } = row;
  const [attendees, resources] = await Promise.all([readAttendees(db, id), readReserved(db, id)]);
  return {
    ...event,
    exceptAt: event.exceptAt.map((text) => text.slice(0, 16).replace(' ', 'T')),
    organizer: {
      id: organizer_id,
      name: organizer_name,
      email: organizer_email,
      zone: organizer_zone,
    },
    attendees,
    resources,
  };
}

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

async function readReserved(db: Database, eventId: string): Promise<EventRecord['resources']> {
  const { rows } = await db.query<EventRecord['resources'][number]>(
    `select subject.id, subject.name, site.name as site, resource.capacity as seats,
            reservation.unit
     from reservation
     join subject on subject.id = reservation.resource_id
     join resource on resource.subject_id = subject.id
     join site on site.id = resource.site_id
     where reservation.event_id = $1 order by subject.name`,
    [eventId],
  );
  return rows;
}

/** Holds an event against other changes until the transaction ends. */
export async function lockEvent(tx: Transaction, id: string): Promise<void> {
  await tx.query('select 1 from event where id = $1 for no key update', [id]);
}

export async function insertEvent(
  tx: Transaction,
  event: NewEvent,
  span: ResolvedSpan,
  by: { organizerId: number; uid: string; now: number },
): Promise<string> {
  const { rows } = await tx.query<{ id: string }>(
    `insert into event (uid, organizer_id, created_by, title, description, place, starts_at, fold,
                        length_minutes, zone, all_day, shows_as, visibility, created_at, updated_at)
     values ($1, $2, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $13) returning id`,
    [
      by.uid,
      by.organizerId,
      event.title,
      event.description,
      event.place,
      span.startsAt,
      event.times.fold,
      span.lengthMinutes,
      event.times.zone,
      event.times.allDay,
      event.showsAs,
      event.visibility,
      new Date(by.now),
    ],
  );
  const { id } = rows[0]!;
  await tx.query('insert into occurrence (event_id, starts_at, ends_at) values ($1, $2, $3)', [
    id,
    new Date(span.start),
    new Date(span.end),
  ]);
  return id;
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

export async function replaceReservations(
  tx: Transaction,
  eventId: string,
  units: readonly { resourceId: number; unit: number }[],
): Promise<void> {
  await tx.query('delete from reservation where event_id = $1', [eventId]);
  if (units.length === 0) return;
  await tx.query(
    `insert into reservation (event_id, resource_id, unit)
     select $1, resource_id, unit from unnest($2::int[], $3::int[]) as new (resource_id, unit)`,
    [eventId, units.map((u) => u.resourceId), units.map((u) => u.unit)],
  );
}

export async function deleteClaims(tx: Transaction, eventId: string): Promise<void> {
  await tx.query(
    `delete from claim using occurrence
     where claim.occurrence_id = occurrence.id and occurrence.event_id = $1`,
    [eventId],
  );
}

/**
 * Claims the time of events' people and resources, as events, replies and reservations say.
 * Resources first: their claims are exclusive, and the constraint refuses what is taken.
 */
export async function insertClaims(tx: Transaction, eventIds: readonly string[]): Promise<void> {
  await tx.query(
    `insert into claim (subject_id, unit, during, occupancy, occurrence_id, exclusive)
     select reservation.resource_id, reservation.unit,
            tstzrange(occurrence.starts_at - make_interval(mins => resource.prepare_minutes),
                      occurrence.ends_at + make_interval(mins => resource.clear_minutes)),
            'busy', occurrence.id, true
     from occurrence
     join event on event.id = occurrence.event_id and event.status = 'confirmed'
     join reservation on reservation.event_id = event.id
     join resource on resource.subject_id = reservation.resource_id
     where event.id = any($1)
     order by reservation.resource_id, reservation.unit, occurrence.starts_at`,
    [eventIds],
  );
  await insertPeopleClaims(tx, eventIds);
}

/** What of the events' time each of their people keeps: nothing after declining. */
async function insertPeopleClaims(tx: Transaction, eventIds: readonly string[], personId?: number) {
  await tx.query(
    `insert into claim (subject_id, during, occupancy, occurrence_id)
     select attendee.person_id, tstzrange(occurrence.starts_at, occurrence.ends_at),
            case
              when event.shows_as = 'free' then 'free'
              when attendee.role = 'organizer' or attendee.reply = 'accepted' then event.shows_as
              else 'tentative'
            end,
            occurrence.id
     from occurrence
     join event on event.id = occurrence.event_id and event.status = 'confirmed'
     join attendee on attendee.event_id = event.id
     where event.id = any($1) and attendee.person_id is not null and attendee.reply <> 'declined'
       and ($2::int is null or attendee.person_id = $2)`,
    [eventIds, personId ?? null],
  );
}

/** Claims one person's time anew, after their reply changed. */
export async function replacePersonClaims(
  tx: Transaction,
  eventId: string,
  personId: number,
): Promise<void> {
  await tx.query(
    `delete from claim using occurrence
     where claim.occurrence_id = occurrence.id and occurrence.event_id = $1 and claim.subject_id = $2`,
    [eventId, personId],
  );
  await insertPeopleClaims(tx, [eventId], personId);
}

export async function updateTimes(
  tx: Transaction,
  eventId: string,
  times: EventTimes,
  span: ResolvedSpan,
): Promise<void> {
  await tx.query(
    `update event set starts_at = $2, fold = $3, length_minutes = $4, zone = $5, all_day = $6
     where id = $1`,
    [eventId, span.startsAt, times.fold, span.lengthMinutes, times.zone, times.allDay],
  );
  await tx.query('update occurrence set starts_at = $2, ends_at = $3 where event_id = $1', [
    eventId,
    new Date(span.start),
    new Date(span.end),
  ]);
}

/** After a move everyone is asked again. */
export async function resetReplies(tx: Transaction, eventId: string, now: number): Promise<void> {
  await tx.query(
    `update attendee set reply = 'needs-action', note = '', replied_at = null, invited_at = $2
     where event_id = $1 and role <> 'organizer'`,
    [eventId, new Date(now)],
  );
}

export async function updateDetails(
  tx: Transaction,
  event: Pick<
    EventRecord,
    'id' | 'title' | 'description' | 'place' | 'showsAs' | 'visibility' | 'status' | 'sequence'
  >,
  now: number,
): Promise<void> {
  await tx.query(
    `update event set title = $2, description = $3, place = $4, shows_as = $5, visibility = $6,
                      status = $7, sequence = $8, version = version + 1, updated_at = $9
     where id = $1`,
    [
      event.id,
      event.title,
      event.description,
      event.place,
      event.showsAs,
      event.visibility,
      event.status,
      event.sequence,
      new Date(now),
    ],
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
