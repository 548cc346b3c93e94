import type { CalendarSearch, CancelledItem, FoundEvent } from '../../contract/calendar.ts';
import { TEXT_FIELD_NAMES } from '../../core/meetings/fields.ts';
import type { Database } from '../db/transaction.ts';
import { columnOf } from '../events/index.ts';
import { ITEM_COLUMNS } from './queries.ts';
import { MOST_FOUND } from './limits.ts';

/** All that is written in an event besides its title. */
const TEXTS_BUT_TITLE = TEXT_FIELD_NAMES.filter((name) => name !== 'title')
  .map((name) => `occurrence.${columnOf(name)}`)
  .join(" || ' ' || ");

/** Words as a search that finds what begins with each of them. */
export const prefixSearch = (text: string): string =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .map((word) => `'${word}':*`)
    .join(' & ');

/**
 * Everything of a person's past and future that fits, those nearest to now first; of a series the
 * next occurrence, or the last, of those that were answered so where an answer is asked for. Names of
 * people who take part are searched as well.
 */
export async function findEvents(
  db: Database,
  personId: number,
  search: CalendarSearch,
  now: number,
): Promise<FoundEvent[]> {
  const { rows } = await db.query<FoundEvent>(
    `with named as materialized (
       select id from subject
       where $3 <> '' and to_tsvector('simple', name) @@ to_tsquery('simple', $3)
     ), candidate as materialized (
       select event.id, attendee.id as attendee_id
       from attendee
       join event on event.id = attendee.event_id and event.status = 'confirmed'
       where attendee.person_id = $1
         and ($3 = '' or event.search @@ to_tsquery('simple', $3)
              or exists (select 1 from occurrence_override
                         where occurrence_override.event_id = event.id
                           and to_tsvector('simple', coalesce(title, '') || ' ' || coalesce(place, ''))
                               @@ to_tsquery('simple', $3))
              or (event.invitees_list or event.invitees_change or event.organizer_id = $1)
                 and exists (select 1 from attendee other
                         where other.event_id = event.id and other.id <> attendee.id
                           and (other.person_id in (select id from named)
                                or to_tsvector('simple', other.name) @@ to_tsquery('simple', $3))))
         and ($4::int is null or exists (select 1 from event_category
                                         where event_category.event_id = event.id
                                           and event_category.person_id = $1 and category_id = $4))
         and ($5::text is null or (attendee.role = 'organizer') = ($5 = 'me'))
         and ($6::text is null or attendee.role <> 'organizer')
         and ($7::text is null or (event.rule is not null) = ($7 = 'yes'))
         and ($8::text is null or $8 = case
               when event.shows_as = 'away' then 'away'
               when exists (select 1 from attendee other
                            where other.event_id = event.id and other.id <> attendee.id) then 'meeting'
               when exists (select 1 from event_resource where event_resource.event_id = event.id) then 'booking'
               else 'own' end)
     ), placed as materialized (
       select candidate.*, nearest.id as occurrence_id, nearest.distance
       from candidate
       join lateral (select id, abs(extract(epoch from starts_at - $2::timestamptz)) as distance
                     from occurrence
                     where event_id = candidate.id
                       and ($6::text is null
                            or exists (select 1 from effective_reply reply
                                       where reply.occurrence_id = occurrence.id
                                         and reply.attendee_id = candidate.attendee_id
                                         and reply.reply = $6))
                     order by starts_at < $2::timestamptz, distance limit 1) nearest on true
       order by nearest.distance limit ${MOST_FOUND}
     )
     select ${ITEM_COLUMNS}, occurrence.shows_as as occupancy,
            (select count(*) from occurrence every where every.event_id = occurrence.event_id)
              as occurrences,
            case when $3 <> ''
                  and not to_tsvector('simple', occurrence.title) @@ to_tsquery('simple', $3)
                 then nullif(trim(ts_headline('simple',
                        regexp_replace(${TEXTS_BUT_TITLE}, '<[^>]*>', ' ', 'g'),
                        to_tsquery('simple', $3),
                        'StartSel="", StopSel="", MaxWords=14, MinWords=6')), '')
            end as excerpt
     from placed
     join effective_occurrence occurrence on occurrence.id = placed.occurrence_id
     join effective_reply reply
       on reply.occurrence_id = placed.occurrence_id and reply.attendee_id = placed.attendee_id
     left join subject on subject.id = occurrence.organizer_id
     order by placed.distance`,
    [
      personId,
      new Date(now),
      prefixSearch(search.q),
      search.category ?? null,
      search.organizer ?? null,
      search.reply ?? null,
      search.repeats ?? null,
      search.kind ?? null,
    ],
  );
  return rows;
}

/** What a person cancelled since `since`, whole events and single occurrences, the latest first. */
export async function readCancelled(
  db: Database,
  personId: number,
  since: number,
): Promise<(Omit<CancelledItem, 'sentence'> & { rule: string | null; startsAt: string })[]> {
  const { rows } = await db.query<
    Omit<CancelledItem, 'sentence'> & { rule: string | null; startsAt: string }
  >(
    `select event.id as "eventId", event.version, null as occurrence, event.title, event.rule,
            event.starts_at as "startsAt",
            coalesce(first.starts_at, event.starts_at at time zone event.zone) as start,
            coalesce(first.ends_at, (event.starts_at at time zone event.zone)
                                    + make_interval(mins => event.length_minutes)) as "end",
            event.all_day as "allDay", event.cancelled_at as "cancelledAt",
            (select count(*) from attendee where event_id = event.id) as "attendeeCount"
     from event
     left join lateral (select starts_at, ends_at from occurrence
                        where event_id = event.id order by starts_at limit 1) first on true
     where event.organizer_id = $1 and event.status = 'cancelled' and event.cancelled_at > $2
     union all
     select event.id, event.version, own.recurrence_at, coalesce(own.title, event.title), null,
            own.recurrence_at,
            coalesce(own.starts_at at time zone own.zone, own.recurrence_at at time zone event.zone),
            coalesce((own.starts_at at time zone own.zone) + make_interval(mins => own.length_minutes),
                     (own.recurrence_at at time zone event.zone)
                       + make_interval(mins => event.length_minutes)),
            event.all_day, own.cancelled_at,
            (select count(*) from attendee where event_id = event.id)
     from event join occurrence_override own on own.event_id = event.id
     where event.organizer_id = $1 and event.status = 'confirmed' and own.cancelled_at > $2
     order by "cancelledAt" desc`,
    [personId, new Date(since)],
  );
  return rows;
}
