-- Up Migration

-- A meeting that is not sent yet: whether it holds time and places meanwhile, and who will be asked.
alter table event add column draft jsonb;
create index event_draft on event (organizer_id) where draft is not null;

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

-- Down Migration

create or replace view effective_occurrence as
  select occurrence.id, occurrence.event_id, occurrence.recurrence_at,
         occurrence.starts_at, occurrence.ends_at,
         event.organizer_id, event.version, event.visibility, event.status, event.rule,
         coalesce(own.title, event.title) as title,
         coalesce(own.description, event.description) as description,
         coalesce(own.place, event.place) as place,
         coalesce(own.agenda, event.agenda) as agenda,
         coalesce(own.notes, event.notes) as notes,
         coalesce(own.shows_as, event.shows_as) as shows_as,
         coalesce(own.all_day, event.all_day) as all_day,
         coalesce(own.zone, event.zone) as zone,
         case when own.zone is null then event.end_zone else own.end_zone end as end_zone
  from occurrence
  join event on event.id = occurrence.event_id
  left join occurrence_override own
    on own.event_id = occurrence.event_id and own.recurrence_at = occurrence.recurrence_at;
drop index event_draft;
alter table event drop column draft;
