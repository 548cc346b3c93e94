-- Up Migration

-- Whether a meeting is sure to take place (STATUS in iCalendar). A date may have its own.
alter table event add column certainty text not null default 'confirmed'
  check (certainty in ('confirmed', 'tentative'));
alter table occurrence_override add column certainty text
  check (certainty in ('confirmed', 'tentative'));

-- How the time of those who come is taken: a draft takes none, or holds it, and what is not certain holds it.
create function time_taken(shows_as text, certainty text, draft jsonb) returns text
  language sql immutable parallel safe
  return case
    when shows_as = 'free' then 'free'
    when draft is not null then case when (draft->>'holds')::boolean then 'tentative' else 'free' end
    when certainty = 'tentative' and shows_as = 'busy' then 'tentative'
    else shows_as
  end;

create or replace view effective_occurrence as
  select occurrence.id, occurrence.event_id, occurrence.recurrence_at,
         occurrence.starts_at, occurrence.ends_at,
         event.organizer_id, event.version,
         case when event.draft is null then event.visibility else 'draft' end as visibility,
         event.status, event.rule,
         coalesce(own.title, event.title) as title,
         coalesce(own.description, event.description) as description,
         coalesce(own.place, event.place) as place,
         coalesce(own.agenda, event.agenda) as agenda,
         coalesce(own.notes, event.notes) as notes,
         time_taken(coalesce(own.shows_as, event.shows_as),
                    coalesce(own.certainty, event.certainty), event.draft) as shows_as,
         coalesce(own.all_day, event.all_day) as all_day,
         coalesce(own.zone, event.zone) as zone,
         case when own.zone is null then event.end_zone else own.end_zone end as end_zone
  from occurrence
  join event on event.id = occurrence.event_id
  left join occurrence_override own
    on own.event_id = occurrence.event_id and own.recurrence_at = occurrence.recurrence_at;

create or replace view effective_presence as
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

-- Down Migration

create or replace view effective_presence as
  select occurrence.id as occurrence_id, occurrence.event_id, occurrence.recurrence_at,
         occurrence.starts_at, occurrence.ends_at, event.status,
         attendee.person_id, attendee.role,
         coalesce(answer.reply, attendee.reply) as reply,
         case when event.draft is null or coalesce(own.shows_as, event.shows_as) = 'free'
              then coalesce(own.shows_as, event.shows_as)
              when (event.draft->>'holds')::boolean then 'tentative'
              else 'free' end as shows_as
  from occurrence
  join event on event.id = occurrence.event_id
  join attendee on attendee.event_id = occurrence.event_id
  left join occurrence_override own
    on own.event_id = occurrence.event_id and own.recurrence_at = occurrence.recurrence_at
  left join occurrence_reply answer
    on answer.attendee_id = attendee.id and answer.recurrence_at = occurrence.recurrence_at;

-- A draft is seen by nobody but its organizer, and takes no time, or holds it tentatively.
create or replace view effective_occurrence as
  select occurrence.id, occurrence.event_id, occurrence.recurrence_at,
         occurrence.starts_at, occurrence.ends_at,
         event.organizer_id, event.version,
         case when event.draft is null then event.visibility else 'draft' end as visibility,
         event.status, event.rule,
         coalesce(own.title, event.title) as title,
         coalesce(own.description, event.description) as description,
         coalesce(own.place, event.place) as place,
         coalesce(own.agenda, event.agenda) as agenda,
         coalesce(own.notes, event.notes) as notes,
         case when event.draft is null or coalesce(own.shows_as, event.shows_as) = 'free'
              then coalesce(own.shows_as, event.shows_as)
              when (event.draft->>'holds')::boolean then 'tentative'
              else 'free' end as shows_as,
         coalesce(own.all_day, event.all_day) as all_day,
         coalesce(own.zone, event.zone) as zone,
         case when own.zone is null then event.end_zone else own.end_zone end as end_zone
  from occurrence
  join event on event.id = occurrence.event_id
  left join occurrence_override own
    on own.event_id = occurrence.event_id and own.recurrence_at = occurrence.recurrence_at;

drop function time_taken(text, text, jsonb);
alter table occurrence_override drop column certainty;
alter table event drop column certainty;
