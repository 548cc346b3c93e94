-- Up Migration

-- What somebody hears of: behind the bell at once, or in their daily letter.
create table notification (
  id bigint generated always as identity primary key,
  person_id integer not null references person on delete cascade,
  kind text not null,
  -- What happened, as the fact says it.
  what text not null,
  event_id uuid not null references event on delete cascade,
  occurrence timestamp,
  -- The version of the event that it tells of.
  version integer not null,
  at timestamptz not null,
  -- What was said of it then: title, times, by whom.
  details jsonb not null,
  how text not null check (how in ('now', 'daily')),
  read_at timestamptz,
  mailed_at timestamptz
);
create index notification_person on notification (person_id, id desc);
create index notification_unread on notification (person_id) where how = 'now' and read_at is null;
create index notification_unmailed on notification (person_id) where how = 'daily' and mailed_at is null;
create index notification_event on notification (event_id, person_id);
create index notification_at on notification (at);

-- How each kind of news is heard of, where it is not at once.
alter table preference add column hearing jsonb not null default '{}';
-- The day, on their own clock, of the last daily letter.
alter table person add column daily_letter_on date;

-- What people say to each other about an event.
create table comment (
  id bigint generated always as identity primary key,
  event_id uuid not null references event on delete cascade,
  author_id integer not null references person on delete cascade,
  words text not null,
  -- Who is spoken to.
  mentions integer[] not null default '{}',
  at timestamptz not null,
  changed_at timestamptz,
  removed_at timestamptz
);
create index comment_event on comment (event_id, id);
create index comment_author on comment (author_id);

-- Down Migration

drop table comment;
alter table person drop column daily_letter_on;
alter table preference drop column hearing;
drop table notification;
