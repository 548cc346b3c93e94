-- Up Migration

-- What an event wants of resources; what it has of them is a reservation, for each occurrence.
alter table reservation rename to event_resource;
alter index reservation_pkey rename to event_resource_pkey;
alter index reservation_resource rename to event_resource_resource;

create table reservation (
  id bigint generated always as identity primary key,
  occurrence_id bigint not null references occurrence on delete cascade,
  resource_id integer not null references resource,
  -- Which of the identical units; 1 where there is one.
  unit smallint not null default 1 check (unit >= 1),
  state text not null default 'held'
    check (state in ('requested', 'held', 'in-use', 'released', 'waiting')),
  since timestamptz not null,
  unique (occurrence_id, resource_id)
);
create index reservation_resource on reservation (resource_id);

insert into reservation (occurrence_id, resource_id, unit, state, since)
select claim.occurrence_id, claim.subject_id, claim.unit, 'held', event.updated_at
from claim
join occurrence on occurrence.id = claim.occurrence_id
join event on event.id = occurrence.event_id
where claim.exclusive;

alter table claim add column reservation_id bigint references reservation on delete cascade;
update claim set reservation_id = reservation.id
from reservation
where claim.exclusive and reservation.occurrence_id = claim.occurrence_id
  and reservation.resource_id = claim.subject_id;
alter table claim add check ((reservation_id is not null) = exclusive);
create index claim_reservation on claim (reservation_id) where reservation_id is not null;

-- Checked at the end of each statement, so that a series can be moved onto its own old times.
alter table claim drop constraint claim_never_twice;
alter table claim add constraint claim_never_twice
  exclude using gist (subject_id with =, unit with =, during with &&) where (exclusive)
  deferrable initially immediate;
drop index occurrence_event;
alter table occurrence add constraint occurrence_named
  unique nulls not distinct (event_id, recurrence_at) deferrable initially immediate;

-- Colleagues are known by who they are: their name and address are where they are kept.
drop index attendee_address;
alter table attendee alter column email drop not null, alter column name drop not null;
update attendee set email = null, name = null where person_id is not null;
alter table attendee add check ((person_id is null) = (email is not null)),
                     add check ((person_id is null) = (name is not null));
create unique index attendee_once on attendee (event_id, person_id);
create unique index attendee_address on attendee (event_id, lower(email)) where email is not null;
create index attendee_email on attendee (lower(email)) where email is not null;

-- DTSTAMP of the answer, and the SEQUENCE from which answers count (RFC 5546 section 2.1.5).
alter table attendee add column stamp timestamptz;
update attendee set stamp = replied_at;
alter table occurrence_reply add column stamp timestamptz;
update occurrence_reply set stamp = replied_at;
alter table event add column replies_from integer not null default 0;
update event set replies_from = sequence;
alter table occurrence_override add column replies_from integer;

-- A revision says what a change touched, not how everything stood.
delete from event_revision;
alter table event_revision drop column state, drop column split_off;
alter table event_revision add column edits jsonb not null,
                           -- {"id", "at", "answers"}: the part that the change split off.
                           add column split_off jsonb;
create index event_revision_at on event_revision (at);

-- What happened: the log, and what letters, notices and the like are made from.
alter table action_log rename to fact;
alter table fact rename column action to kind;
alter table fact add column occurrence timestamp;
alter index action_log_event rename to fact_event;

alter table mail add column attendee_id bigint references attendee on delete set null,
                 -- Set when it will not be tried again, with the reason.
                 add column failed_at timestamptz,
                 add column failure text;
create index mail_attendee on mail (attendee_id) where attendee_id is not null;
drop index mail_unsent;
create index mail_unsent on mail (created_at) where sent_at is null and failed_at is null;

-- Work that is due at a moment: done once, late rather than never, by any of several servers.
create table job (
  id bigint generated always as identity primary key,
  kind text not null,
  -- What it is about, such as the id of a mail; empty for what is done again and again.
  key text not null default '',
  due_at timestamptz not null default now(),
  tries smallint not null default 0,
  -- Somebody works on it until then; after that somebody else may.
  leased_until timestamptz,
  failure text,
  unique (kind, key)
);
create index job_due on job (kind, due_at);
insert into job (kind, key) select 'letter', id::text from mail where sent_at is null;
drop schema if exists pgboss cascade;

-- The few who let others act for them, found at every request.
create index person_lets_act on person (subject_id)
  where share_organization = 'acts' or share_partners = 'acts';

create index subject_name on subject using gin (to_tsvector('simple', name));
create index reminder_person on reminder (person_id);
create index event_category_person on event_category (person_id);
create index session_expiry on session (expires_at);
create index idempotency_key_age on idempotency_key (created_at);

-- A publisher may say several stretches of time, with nothing known between them.
alter table published_calendar alter column covers type tstzmultirange
  using case when covers is null then null else tstzmultirange(covers) end;

-- One occurrence as it is, with what it has of its own.
create view effective_occurrence as
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

-- What everybody answered to each occurrence: to itself, or else to the whole.
create view effective_reply as
  select occurrence.id as occurrence_id, occurrence.event_id, occurrence.recurrence_at,
         attendee.id as attendee_id, attendee.person_id, attendee.role,
         coalesce(answer.reply, attendee.reply) as reply,
         coalesce(answer.note, attendee.note) as note,
         coalesce(answer.asked_at, attendee.invited_at) as asked_at,
         case when answer.attendee_id is null then attendee.replied_at else answer.replied_at end
           as replied_at
  from occurrence
  join attendee on attendee.event_id = occurrence.event_id
  left join occurrence_reply answer
    on answer.attendee_id = attendee.id and answer.recurrence_at = occurrence.recurrence_at;

-- Who takes part, by name and present address.
create view participant as
  select attendee.id, attendee.event_id, attendee.person_id, attendee.role, attendee.reply,
         attendee.note, attendee.invited_at, attendee.replied_at, attendee.stamp,
         coalesce(subject.name, attendee.name) as name,
         coalesce(person.email, attendee.email) as email,
         person.zone, person.clock
  from attendee
  left join subject on subject.id = attendee.person_id
  left join person on person.subject_id = attendee.person_id;

-- Down Migration

drop view participant, effective_reply, effective_occurrence;
alter table published_calendar alter column covers type tstzrange using range_merge(covers);
drop index person_lets_act, subject_name, reminder_person, event_category_person, session_expiry, idempotency_key_age;
drop table job;
drop index mail_unsent, mail_attendee;
alter table mail drop column attendee_id, drop column failed_at, drop column failure;
create index mail_unsent on mail (created_at) where sent_at is null;
alter index fact_event rename to action_log_event;
alter table fact drop column occurrence;
alter table fact rename column kind to action;
alter table fact rename to action_log;
drop index event_revision_at;
delete from event_revision;
alter table event_revision drop column edits, drop column split_off;
alter table event_revision add column state jsonb not null, add column split_off uuid;
alter table occurrence_override drop column replies_from;
alter table event drop column replies_from;
alter table occurrence_reply drop column stamp;
drop index attendee_email, attendee_address, attendee_once;
alter table attendee drop constraint attendee_check, drop constraint attendee_check1,
                     drop column stamp;
update attendee set name = subject.name, email = person.email
from subject join person on person.subject_id = subject.id where subject.id = attendee.person_id;
alter table attendee alter column email set not null, alter column name set not null;
create unique index attendee_address on attendee (event_id, lower(email));
alter table occurrence drop constraint occurrence_named;
create unique index occurrence_event on occurrence (event_id, recurrence_at) nulls not distinct;
alter table claim drop constraint claim_never_twice;
alter table claim add constraint claim_never_twice
  exclude using gist (subject_id with =, unit with =, during with &&) where (exclusive);
drop index claim_reservation;
alter table claim drop column reservation_id;
drop table reservation;
alter index event_resource_resource rename to reservation_resource;
alter index event_resource_pkey rename to reservation_pkey;
alter table event_resource rename to reservation;
