-- Up Migration

-- Whoever leaves keeps their part in what happened until then: the row stays, with the moment. `attendee` is who
-- takes part from now on, and all but the past is read from it.
alter table attendee rename to attendance;
alter table attendance add column left_at timestamptz;
create view attendee as
  select id, event_id, person_id, email, name, role, reply, note, invited_at, replied_at, stamp, nudged_at, proposals
  from attendance where left_at is null;

-- The same view by name of its columns, now of those who take part.
create or replace view participant as
  select attendee.id, attendee.event_id, attendee.person_id, attendee.role, attendee.reply,
         attendee.note, attendee.invited_at, attendee.replied_at, attendee.stamp,
         coalesce(subject.name, attendee.name) as name,
         coalesce(person.email, attendee.email) as email,
         person.zone, person.clock, attendee.nudged_at, attendee.proposals
  from attendee
  left join subject on subject.id = attendee.person_id
  left join person on person.subject_id = attendee.person_id;

create or replace view effective_presence as
  select occurrence.id as occurrence_id, occurrence.event_id, occurrence.recurrence_at,
         occurrence.starts_at, occurrence.ends_at, event.status,
         attendance.person_id, attendance.role,
         coalesce(answer.reply, attendance.reply) as reply,
         time_taken(coalesce(own.shows_as, event.shows_as),
                    coalesce(own.certainty, event.certainty), event.draft) as shows_as,
         case when event.organizer_id is null and coalesce(own.all_day, event.all_day)
              then days_on(occurrence.starts_at, occurrence.ends_at, coalesce(own.zone, event.zone), person.zone)
              else tstzrange(occurrence.starts_at, occurrence.ends_at) end as during
  from occurrence
  join event on event.id = occurrence.event_id
  join attendance on attendance.event_id = occurrence.event_id
    and (attendance.left_at is null or occurrence.starts_at < attendance.left_at)
  left join person on person.subject_id = attendance.person_id
  left join occurrence_override own
    on own.event_id = occurrence.event_id and own.recurrence_at = occurrence.recurrence_at
  left join occurrence_reply answer
    on answer.attendee_id = attendance.id and answer.recurrence_at = occurrence.recurrence_at;

create or replace view effective_reply as
  select occurrence.id as occurrence_id, occurrence.event_id, occurrence.recurrence_at,
         attendance.id as attendee_id, attendance.person_id, attendance.role,
         coalesce(answer.reply, attendance.reply) as reply,
         coalesce(answer.note, attendance.note) as note,
         coalesce(answer.asked_at, attendance.invited_at) as asked_at,
         case when answer.attendee_id is null then attendance.replied_at else answer.replied_at end
           as replied_at
  from occurrence
  join attendance on attendance.event_id = occurrence.event_id
    and (attendance.left_at is null or occurrence.starts_at < attendance.left_at)
  left join occurrence_reply answer
    on answer.attendee_id = attendance.id and answer.recurrence_at = occurrence.recurrence_at;

-- A draft names whom it will ask.
create index event_unsent on event (id) where draft is not null;

-- Down Migration

drop index event_unsent;

delete from attendance where left_at is not null;
create or replace view participant as
  select attendance.id, attendance.event_id, attendance.person_id, attendance.role, attendance.reply,
         attendance.note, attendance.invited_at, attendance.replied_at, attendance.stamp,
         coalesce(subject.name, attendance.name) as name,
         coalesce(person.email, attendance.email) as email,
         person.zone, person.clock, attendance.nudged_at, attendance.proposals
  from attendance
  left join subject on subject.id = attendance.person_id
  left join person on person.subject_id = attendance.person_id;
create or replace view effective_presence as
  select occurrence.id as occurrence_id, occurrence.event_id, occurrence.recurrence_at,
         occurrence.starts_at, occurrence.ends_at, event.status,
         attendance.person_id, attendance.role,
         coalesce(answer.reply, attendance.reply) as reply,
         time_taken(coalesce(own.shows_as, event.shows_as),
                    coalesce(own.certainty, event.certainty), event.draft) as shows_as,
         case when event.organizer_id is null and coalesce(own.all_day, event.all_day)
              then days_on(occurrence.starts_at, occurrence.ends_at, coalesce(own.zone, event.zone), person.zone)
              else tstzrange(occurrence.starts_at, occurrence.ends_at) end as during
  from occurrence
  join event on event.id = occurrence.event_id
  join attendance on attendance.event_id = occurrence.event_id
  left join person on person.subject_id = attendance.person_id
  left join occurrence_override own
    on own.event_id = occurrence.event_id and own.recurrence_at = occurrence.recurrence_at
  left join occurrence_reply answer
    on answer.attendee_id = attendance.id and answer.recurrence_at = occurrence.recurrence_at;
create or replace view effective_reply as
  select occurrence.id as occurrence_id, occurrence.event_id, occurrence.recurrence_at,
         attendance.id as attendee_id, attendance.person_id, attendance.role,
         coalesce(answer.reply, attendance.reply) as reply,
         coalesce(answer.note, attendance.note) as note,
         coalesce(answer.asked_at, attendance.invited_at) as asked_at,
         case when answer.attendee_id is null then attendance.replied_at else answer.replied_at end
           as replied_at
  from occurrence
  join attendance on attendance.event_id = occurrence.event_id
  left join occurrence_reply answer
    on answer.attendee_id = attendance.id and answer.recurrence_at = occurrence.recurrence_at;
drop view attendee;
alter table attendance drop column left_at;
alter table attendance rename to attendee;
