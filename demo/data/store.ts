import type { Transaction } from '../../src/server/db/transaction.ts';
import { claimedTime } from '../../src/core/booking/booking.ts';
import { syncBusyTime, horizonAt } from '../../src/server/events/index.ts';
import { writeReservations } from '../../src/server/reservations/index.ts';
import type { SampleEvent } from './calendars.ts';
import { HOME_DOMAIN } from './organization.ts';
import { Random } from './random.ts';

const DAY_MS = 86_400_000;

/** Writes made-up events with all that belongs to them: a statement a table, not a row. */
export async function storeEvents(
  tx: Transaction,
  events: readonly SampleEvent[],
  now: number,
): Promise<void> {
  const random = new Random(`ids ${new Date(now).toISOString().slice(0, 10)}`);
  const ids = events.map(() => random.uuid());
  const rows = events.map((event, k) => ({
    id: ids[k],
    uid: `${ids[k]}@${HOME_DOMAIN}`,
    organizer_id: event.organizer.id,
    created_by: event.organizer.id,
    title: event.title,
    place: event.place,
    starts_at: event.startsAt,
    length_minutes: event.lengthMinutes,
    zone: event.zone,
    all_day: event.allDay,
    rule: event.rule ?? null,
    kept_until: event.rule ? new Date(horizonAt(now)).toISOString() : null,
    shows_as: event.showsAs,
    visibility: event.visibility,
  }));
  await tx.query(
    `insert into event (id, uid, organizer_id, created_by, title, place, starts_at, length_minutes,
                        zone, all_day, rule, kept_until, shows_as, visibility, created_at, updated_at)
     select *, $2, $2 from jsonb_to_recordset($1) as new (
       id uuid, uid text, organizer_id int, created_by int, title text, place text,
       starts_at timestamp, length_minutes int, zone text, all_day boolean, rule text,
       kept_until timestamptz, shows_as text, visibility text)`,
    [JSON.stringify(rows), new Date(now)],
  );
  await storeOccurrences(tx, events, ids);
  await storePeople(tx, events, ids, now);
  await tx.query(
    `insert into event_resource (event_id, resource_id)
     select * from jsonb_to_recordset($1) as new (event_id uuid, resource_id int)`,
    [
      JSON.stringify(
        events.flatMap((event, k) =>
          event.resources.map(({ resource }) => ({ event_id: ids[k], resource_id: resource.id })),
        ),
      ),
    ],
  );
  syncBusyTime(tx, ids);
  await storeReservations(tx, events, ids, now);
}

async function storeReservations(
  tx: Transaction,
  events: readonly SampleEvent[],
  ids: readonly string[],
  now: number,
) {
  const { rows } = await tx.query<{ id: number; event_id: string; start: number }>(
    'select id, event_id, starts_at as start from occurrence where event_id = any($1)',
    [ids],
  );
  const occurrenceIds = new Map(rows.map((row) => [`${row.event_id} ${row.start}`, row.id]));
  const made = events.flatMap((event, k) =>
    event.resources.flatMap(({ resource, unit }) => {
      const [prepareMinutes, clearMinutes] = resource.buffers ?? [0, 0];
      return event.occurrences.map((span) => ({
        ...claimedTime(span, { prepareMinutes, clearMinutes }),
        own: span,
        holderId: event.organizer.id,
        occurrenceId: occurrenceIds.get(`${ids[k]} ${span.start}`)!,
        resourceId: resource.id,
        unit,
        state: 'held' as const,
      }));
    }),
  );
  writeReservations(tx, { made, moved: [], dropped: [], released: [] }, now);
  // Where somebody is to check in, whoever has it just now has done so.
  tx.send(
    `update reservation set state = 'in-use', used_at = occurrence.starts_at
     from occurrence, resource
     where occurrence.id = occurrence_id and resource.subject_id = resource_id
       and resource.rules ? 'graceMinutes' and occurrence.starts_at <= $1 and occurrence.ends_at > $1`,
    [new Date(now)],
  );
}

async function storeOccurrences(tx: Transaction, events: readonly SampleEvent[], ids: string[]) {
  const rows = events.flatMap((event, k) =>
    event.occurrences.map((occurrence) => ({
      event_id: ids[k],
      recurrence_at: occurrence.recurrenceId,
      starts_at: new Date(occurrence.start).toISOString(),
      ends_at: new Date(occurrence.end).toISOString(),
    })),
  );
  await tx.query(
    `insert into occurrence (event_id, recurrence_at, starts_at, ends_at)
     select * from jsonb_to_recordset($1) as new (
       event_id uuid, recurrence_at timestamp, starts_at timestamptz, ends_at timestamptz)`,
    [JSON.stringify(rows)],
  );
}

async function storePeople(
  tx: Transaction,
  events: readonly SampleEvent[],
  ids: string[],
  now: number,
) {
  const rows = events.flatMap((event, k) => {
    const everyone = [
      { person: event.organizer, role: 'organizer', reply: 'accepted' },
      ...event.attendees,
    ];
    const first = event.occurrences[0]?.start ?? now;
    const invitedAt = Math.min(first - 9 * DAY_MS, now - DAY_MS * (1 + (k % 6)));
    return everyone.map(({ person, role, reply }, n) => ({
      event_id: ids[k],
      person_id: person.id,
      role,
      reply,
      invited_at: new Date(invitedAt).toISOString(),
      replied_at:
        reply === 'needs-action' ? null : new Date(invitedAt + (n + 1) * 3_600_000).toISOString(),
    }));
  });
  await tx.query(
    `insert into attendee (event_id, person_id, role, reply, invited_at, replied_at, stamp)
     select new.*, replied_at from jsonb_to_recordset($1) as new (
       event_id uuid, person_id int, role text, reply text,
       invited_at timestamptz, replied_at timestamptz)`,
    [JSON.stringify(rows)],
  );
}
