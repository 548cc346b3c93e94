-- Up Migration

-- What those who are invited may do: change it, ask others as well, see who else is asked; and whether
-- people outside may see how many of the others are free.
alter table event
  add column invitees_change boolean not null default false,
  add column invitees_invite boolean not null default false,
  add column invitees_list boolean not null default true,
  add column outsiders_count boolean not null default false;

-- Other times that somebody asks for, a few of them: occurrence, start, end, note, when it was asked.
alter table attendee add column proposals jsonb not null default '[]';

create or replace view participant as
  select attendee.id, attendee.event_id, attendee.person_id, attendee.role, attendee.reply,
         attendee.note, attendee.invited_at, attendee.replied_at, attendee.stamp,
         coalesce(subject.name, attendee.name) as name,
         coalesce(person.email, attendee.email) as email,
         person.zone, person.clock, attendee.nudged_at, attendee.proposals
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
         person.zone, person.clock, attendee.nudged_at
  from attendee
  left join subject on subject.id = attendee.person_id
  left join person on person.subject_id = attendee.person_id;
alter table attendee drop column proposals;
alter table event
  drop column invitees_change,
  drop column invitees_invite,
  drop column invitees_list,
  drop column outsiders_count;
