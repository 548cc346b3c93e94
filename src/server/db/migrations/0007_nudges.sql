-- Up Migration

-- When somebody who has not answered was last reminded to; of a new question, not yet.
alter table attendee add column nudged_at timestamptz;

create or replace view participant as
  select attendee.id, attendee.event_id, attendee.person_id, attendee.role, attendee.reply,
         attendee.note, attendee.invited_at, attendee.replied_at, attendee.stamp,
         coalesce(subject.name, attendee.name) as name,
         coalesce(person.email, attendee.email) as email,
         person.zone, person.clock, attendee.nudged_at
  from attendee
  left join subject on subject.id = attendee.person_id
  left join person on person.subject_id = attendee.person_id;

-- Down Migration

drop view participant;
create view participant as
  select attendee.id, attendee.event_id, attendee.person_id, attendee.role, attendee.reply,
         attendee.note, attendee.invited_at, attendee.replied_at, attendee.stamp,
         coalesce(subject.name, attendee.name) as name,
         coalesce(person.email, attendee.email) as email,
         person.zone, person.clock
  from attendee
  left join subject on subject.id = attendee.person_id
  left join person on person.subject_id = attendee.person_id;
alter table attendee drop column nudged_at;
