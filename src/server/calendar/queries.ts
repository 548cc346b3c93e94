import { holidayOf, type Holiday } from '../../core/time/workingHours.ts';
import type { CalendarItem } from '../../contract/eventDetail.ts';
import type { Shown } from '../../core/availability/busy.ts';
import type { Unprojected } from '../access/index.ts';
import type { Database } from '../db/transaction.ts';
import { spanFor } from '../events/index.ts';

/** The columns of a CalendarItem, of an effective `occurrence` and the `reply` of one of its people. */
export const ITEM_COLUMNS = `
  occurrence.event_id as "eventId", occurrence.id as "occurrenceId",
  occurrence.recurrence_at as "recurrenceId", occurrence.version,
  occurrence.title, occurrence.place,
  ${spanFor('occurrence', 'reply.person_id')},
  occurrence.all_day as "allDay", occurrence.visibility = 'draft' as draft, occurrence.zone, occurrence.end_zone as "endZone",
  case when reply.role = 'organizer' then 'organizer' else reply.reply end as standing,
  coalesce(subject.name, (select name from attendee host
                          where host.event_id = occurrence.event_id and host.role = 'organizer'))
    as organizer,
  (select case when invitees_list or invitees_change or reply.role = 'organizer'
               then (select count(*) from attendee other where other.event_id = event.id)
               -- Whoever is not to know who else is asked is not told how many.
               else 2 end
   from event where event.id = occurrence.event_id) as "attendeeCount",
  array(select place.name
        from reservation join subject place on place.id = reservation.resource_id
        where reservation.occurrence_id = occurrence.id order by place.name) as resources,
  (select category_id from event_category
   where event_category.event_id = occurrence.event_id
     and event_category.person_id = reply.person_id) as "categoryId"`;

/** A person's own calendar over a window: everything that claims their time, by start. */
export async function readCalendar(
  db: Database,
  personId: number,
  from: number,
  to: number,
): Promise<CalendarItem[]> {
  const { rows } = await db.query<CalendarItem>(
    `select ${ITEM_COLUMNS}, claim.occupancy
     from claim
     join effective_occurrence occurrence on occurrence.id = claim.occurrence_id
     join effective_reply reply
       on reply.occurrence_id = claim.occurrence_id and reply.person_id = claim.subject_id
     left join subject on subject.id = occurrence.organizer_id
     where claim.subject_id = $1 and claim.during && tstzrange($2, $3)
     order by occurrence.starts_at, occurrence.ends_at desc, occurrence.event_id`,
    [personId, new Date(from), new Date(to)],
  );
  return rows;
}

/** What a person declined over a window, by start: it takes nobody's time, and can be taken up again. */
export async function readDeclined(
  db: Database,
  personId: number,
  from: number,
  to: number,
): Promise<CalendarItem[]> {
  const { rows } = await db.query<CalendarItem>(
    `with asked as materialized (
       select event_id, id from attendee
       where person_id = $1 and role <> 'organizer'
         and (reply = 'declined'
              or exists (select 1 from occurrence_reply
                         where attendee_id = attendee.id and reply = 'declined')))
     select ${ITEM_COLUMNS}, 'free' as occupancy
     from asked
     join effective_occurrence occurrence
       on occurrence.event_id = asked.event_id and occurrence.status = 'confirmed'
     join effective_reply reply
       on reply.occurrence_id = occurrence.id and reply.attendee_id = asked.id
     left join subject on subject.id = occurrence.organizer_id
     where reply.reply = 'declined'
       and occurrence.starts_at < $3 and occurrence.ends_at > $2
     order by occurrence.starts_at, occurrence.event_id`,
    [personId, new Date(from), new Date(to)],
  );
  return rows;
}

export interface SubjectFacts {
  id: number;
  kind: 'person' | 'resource';
  name: string;
}

export async function readSubjectFacts(
  db: Database,
  ids: readonly number[],
): Promise<SubjectFacts[]> {
  const { rows } = await db.query<SubjectFacts>(
    'select id, kind, name from subject where id = any($1)',
    [ids],
  );
  return rows;
}

/** The claims of a subject, column by column, which is several times less work than a row for each. */
export interface LayerRows {
  subjectId: number;
  occurrences: number[];
  starts: number[];
  ends: number[];
  occupancies: ('busy' | 'tentative' | 'away' | 'free')[];
  events: string[];
  recurrences: (string | null)[];
  titles: Unprojected<string>[];
  places: Unprojected<string>[];
  allDays: boolean[];
  visibilities: Shown[];
  organizers: (number | null)[];
  /** Whether the asker takes part, or somebody for whom they act. */
  takesPart: boolean[];
}

/**
 * What stands in the calendars of subjects over a window, with texts; what is shown is decided above.
 * @param principals the asker, and those for whom they act
 */
export async function readLayers(
  db: Database,
  principals: readonly number[],
  ids: readonly number[],
  from: number,
  to: number,
): Promise<LayerRows[]> {
  const list = (column: string, name: string) =>
    `to_json(array_agg(${column} order by at)) as "${name}"`;
  const { rows } = await db.query<LayerRows>(
    `with mine as materialized (
       select event_id from attendee where person_id = any($1)
     ), found as (
       select claim.subject_id, occurrence.id, occurrence.starts_at as at,
              extract(epoch from span.start)::float8 * 1000 as starts_at,
              extract(epoch from span."end")::float8 * 1000 as ends_at,
              claim.occupancy, occurrence.event_id::text as event_id,
              to_char(occurrence.recurrence_at, 'YYYY-MM-DD"T"HH24:MI') as recurrence_at,
              occurrence.title, occurrence.place, occurrence.all_day,
              occurrence.visibility, occurrence.organizer_id,
              occurrence.event_id in (select event_id from mine) as takes_part
       from claim
       join effective_occurrence occurrence on occurrence.id = claim.occurrence_id
       -- A place is taken longer than its booking says; a person, by what is theirs.
       cross join lateral (
         select case when claim.exclusive then occurrence.starts_at else lower(claim.during) end as start,
                case when claim.exclusive then occurrence.ends_at else upper(claim.during) end as "end"
       ) span
       where claim.subject_id = any($2) and claim.during && tstzrange($3, $4)
         -- A draft that takes no time is nothing to others.
         and (occurrence.visibility <> 'draft' or claim.occupancy <> 'free'
              or occurrence.organizer_id = any($1))
     )
     select subject_id as "subjectId", ${list('id::int', 'occurrences')},
            ${list('starts_at', 'starts')}, ${list('ends_at', 'ends')},
            ${list('occupancy', 'occupancies')}, ${list('event_id', 'events')},
            ${list('recurrence_at', 'recurrences')}, ${list('title', 'titles')},
            ${list('place', 'places')}, ${list('all_day', 'allDays')},
            ${list('visibility', 'visibilities')}, ${list('organizer_id', 'organizers')},
            ${list('takes_part', 'takesPart')}
     from found group by subject_id`,
    [principals, ids, new Date(from), new Date(to)],
  );
  return rows;
}

/** Spans of a person's time that is taken or kept, whole days marked. */
export async function readTakenSpans(
  db: Database,
  personId: number,
  from: number,
  to: number,
): Promise<{ start: number; end: number; allDay: boolean; occupancy: string }[]> {
  const { rows } = await db.query<{
    start: number;
    end: number;
    allDay: boolean;
    occupancy: string;
  }>(
    `select lower(claim.during) as start, upper(claim.during) as "end",
            occurrence.all_day as "allDay", claim.occupancy
     from claim
     join effective_occurrence occurrence on occurrence.id = claim.occurrence_id
     where claim.subject_id = $1 and claim.during && tstzrange($2, $3)`,
    [personId, new Date(from), new Date(to)],
  );
  return rows;
}

export async function readHolidays(
  db: Database,
  siteId: number,
  first: string,
  last: string,
): Promise<Holiday[]> {
  const { rows } = await db.query<{ date: string; name: string; start: number; end: number }>(
    `select date::text, name, off_from as start, off_until as "end" from holiday
     where site_id = $1 and date between $2 and $3 order by date`,
    [siteId, first, last],
  );
  return rows.map(holidayOf);
}
