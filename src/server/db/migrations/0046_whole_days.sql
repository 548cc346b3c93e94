-- Up Migration

-- Whole days from elsewhere say no clock (DATE in iCalendar): each person has them on their own calendar.
create function days_on(starts_at timestamptz, ends_at timestamptz, kept_in text, own text) returns tstzrange
  language sql immutable parallel safe
  return case
    when kept_in = own then tstzrange(starts_at, ends_at)
    else tstzrange((starts_at at time zone kept_in) at time zone own,
                   (ends_at at time zone kept_in) at time zone own)
  end;

create or replace view effective_presence as
  select occurrence.id as occurrence_id, occurrence.event_id, occurrence.recurrence_at,
         occurrence.starts_at, occurrence.ends_at, event.status,
         attendee.person_id, attendee.role,
         coalesce(answer.reply, attendee.reply) as reply,
         time_taken(coalesce(own.shows_as, event.shows_as),
                    coalesce(own.certainty, event.certainty), event.draft) as shows_as,
         case when event.organizer_id is null and coalesce(own.all_day, event.all_day)
              then days_on(occurrence.starts_at, occurrence.ends_at, coalesce(own.zone, event.zone), person.zone)
              else tstzrange(occurrence.starts_at, occurrence.ends_at) end as during
  from occurrence
  join event on event.id = occurrence.event_id
  join attendee on attendee.event_id = occurrence.event_id
  left join person on person.subject_id = attendee.person_id
  left join occurrence_override own
    on own.event_id = occurrence.event_id and own.recurrence_at = occurrence.recurrence_at
  left join occurrence_reply answer
    on answer.attendee_id = attendee.id and answer.recurrence_at = occurrence.recurrence_at;

-- What was taken before by the first reader's clock.
update claim set during = presence.during
from effective_presence presence
join event on event.id = presence.event_id
where claim.occurrence_id = presence.occurrence_id and claim.subject_id = presence.person_id
  and not claim.exclusive and event.organizer_id is null and claim.during <> presence.during;

-- Down Migration

drop view effective_presence;
drop function days_on;
create view effective_presence as
  select occurrence.id as occurrence_id, occurrence.event_id, occurrence.recurrence_at,
         occurrence.starts_at, occurrence.ends_at, event.status,
         attendee.person_id, attendee.role,
         coalesce(answer.reply, attendee.reply) as reply,
         time_taken(coalesce(own.shows_as, event.shows_as),
                    coalesce(own.certainty, event.certainty), event.draft) as shows_as
  from occurrence
  join event on event.id = occurrence.event_id
  join attendee on attendee.event_id = occurrence.event_id
  left join occurrence_override own
    on own.event_id = occurrence.event_id and own.recurrence_at = occurrence.recurrence_at
  left join occurrence_reply answer
    on answer.attendee_id = attendee.id and answer.recurrence_at = occurrence.recurrence_at;
