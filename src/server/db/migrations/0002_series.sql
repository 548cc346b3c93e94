-- Up Migration

alter table event
  -- Where the end is meant to be read; null for the zone of the start.
  add column end_zone text,
  add column agenda text not null default '',
  add column notes text not null default '',
  add column cancelled_at timestamptz,
  -- Of a series: occurrences that start before this are kept; a nightly job moves it on.
  add column kept_until timestamptz,
  add column search tsvector not null generated always as (
    setweight(to_tsvector('simple', title), 'A') ||
    to_tsvector('simple', place) ||
    to_tsvector('simple', regexp_replace(description || ' ' || agenda || ' ' || notes, '<[^>]*>', ' ', 'g'))
  ) stored;
create index event_search on event using gin (search);
create index event_kept_until on event (kept_until) where rule is not null and status = 'confirmed';
create index event_cancelled on event (organizer_id, cancelled_at) where status = 'cancelled';
update event set cancelled_at = updated_at where status = 'cancelled';

-- Units are chosen for each occurrence and stand in its claim.
alter table reservation drop constraint reservation_pkey;
alter table reservation drop column unit;
alter table reservation add primary key (event_id, resource_id);

-- What is different about one occurrence of a series; null says: as the series.
create table occurrence_override (
  event_id uuid not null references event on delete cascade,
  -- The wall time that names it in the rule, which stays the same when it is moved.
  recurrence_at timestamp not null,
  cancelled_at timestamptz,
  starts_at timestamp,
  zone text,
  end_zone text,
  fold text check (fold in ('earlier', 'later')),
  length_minutes integer check (length_minutes > 0),
  all_day boolean,
  title text,
  description text,
  place text,
  agenda text,
  notes text,
  shows_as text check (shows_as in ('busy', 'tentative', 'away', 'free')),
  resources integer[],
  primary key (event_id, recurrence_at),
  check ((starts_at is null) = (length_minutes is null) and (starts_at is null) = (zone is null))
);
create index occurrence_override_cancelled on occurrence_override (cancelled_at)
  where cancelled_at is not null;

-- An answer to one occurrence where it differs from the answer to the series.
create table occurrence_reply (
  event_id uuid not null references event on delete cascade,
  recurrence_at timestamp not null,
  attendee_id bigint not null references attendee on delete cascade,
  reply text not null check (reply in ('needs-action', 'accepted', 'tentative', 'declined')),
  note text not null default '',
  asked_at timestamptz not null,
  replied_at timestamptz,
  primary key (event_id, recurrence_at, attendee_id)
);
create index occurrence_reply_attendee on occurrence_reply (attendee_id);

-- How an event stood before a change, so that the change can be undone.
create table event_revision (
  event_id uuid not null references event on delete cascade,
  -- The version that the change made.
  version integer not null,
  at timestamptz not null,
  state jsonb not null,
  -- The event that the change split off, if it did.
  split_off uuid,
  primary key (event_id, version)
);

create table category (
  id integer generated always as identity primary key,
  owner_id integer not null references person on delete cascade,
  name text not null,
  colour text not null,
  pattern text not null,
  unique (owner_id, name)
);

-- Everyone sorts what stands in their calendar into categories of their own.
create table event_category (
  event_id uuid not null references event on delete cascade,
  person_id integer not null references person on delete cascade,
  category_id integer not null references category on delete cascade,
  primary key (event_id, person_id)
);
create index event_category_category on event_category (category_id);

create table reminder (
  event_id uuid not null references event on delete cascade,
  person_id integer not null references person on delete cascade,
  minutes_before integer not null check (minutes_before between 0 and 40320),
  means text not null check (means in ('popup', 'mail')),
  primary key (event_id, person_id, minutes_before, means)
);

create table stored_file (
  id uuid primary key default gen_random_uuid(),
  type text not null,
  size integer not null,
  content bytea not null
);

create table attachment (
  id uuid primary key default gen_random_uuid(),
  event_id uuid not null references event on delete cascade,
  file_id uuid not null references stored_file,
  name text not null,
  added_by integer not null references person,
  added_at timestamptz not null
);
create index attachment_event on attachment (event_id);
create index attachment_file on attachment (file_id);

create table preference (
  person_id integer primary key references person on delete cascade,
  first_weekday smallint not null default 1 check (first_weekday between 1 and 7),
  -- Hours shown without scrolling, in minutes after midnight.
  shown_from smallint not null default 420 check (shown_from between 0 and 1380),
  shown_to smallint not null default 1140 check (shown_to between 60 and 1440),
  default_minutes smallint not null default 30 check (default_minutes between 5 and 1440),
  -- [{"minutes": 10, "means": "popup"}]
  default_reminders jsonb not null default '[{"minutes": 10, "means": "popup"}]',
  -- How layers stand: over one another, beside one another, or one row each.
  arrangement text not null default 'over' check (arrangement in ('over', 'beside', 'rows')),
  check (shown_from + 60 <= shown_to)
);

create table layer (
  id integer generated always as identity primary key,
  owner_id integer not null references person on delete cascade,
  subject_id integer references subject on delete cascade,
  team_id integer references team on delete cascade,
  colour text not null,
  shown boolean not null default true,
  position smallint not null,
  check ((subject_id is null) <> (team_id is null)),
  unique nulls not distinct (owner_id, subject_id, team_id)
);

create table holiday (
  site_id integer not null references site on delete cascade,
  date date not null,
  name text not null,
  primary key (site_id, date, name)
);

-- Down Migration

drop table holiday, layer, preference, attachment, stored_file, reminder, event_category, category,
  event_revision, occurrence_reply, occurrence_override;
alter table reservation add column unit smallint not null default 1;
drop index event_search, event_kept_until, event_cancelled;
alter table event drop column search, drop column kept_until, drop column cancelled_at,
  drop column notes, drop column agenda, drop column end_zone;
