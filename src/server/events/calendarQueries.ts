import type { CalendarItem } from '../../contract/events.ts';
import type { Database } from '../db/transaction.ts';

/** A person's own calendar over a window: everything that claims their time, by start. */
export async function readCalendar(
  db: Database,
  personId: number,
  from: number,
  to: number,
): Promise<CalendarItem[]> {
  const { rows } = await db.query<CalendarItem>(
    `select event.id as "eventId", occurrence.id as "occurrenceId", event.title,
            event.place, occurrence.starts_at as start, occurrence.ends_at as "end",
            event.all_day as "allDay", claim.occupancy,
            case when attendee.role = 'organizer' then 'organizer' else attendee.reply end as standing,
            subject.name as organizer,
            (select count(*) from attendee other where other.event_id = event.id) as "attendeeCount",
            coalesce((select array_agg(place.name order by place.name)
                      from reservation join subject place on place.id = reservation.resource_id
                      where reservation.event_id = event.id), '{}') as resources,
            event.rule is not null as recurring
     from claim
     join occurrence on occurrence.id = claim.occurrence_id
     join event on event.id = occurrence.event_id
     join attendee on attendee.event_id = event.id and attendee.person_id = claim.subject_id
     join subject on subject.id = event.organizer_id
     where claim.subject_id = $1 and claim.during && tstzrange($2, $3)
     order by occurrence.starts_at, occurrence.ends_at desc, event.id`,
    [personId, new Date(from), new Date(to)],
  );
  return rows;
}
