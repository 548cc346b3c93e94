-- Up Migration

-- Where somebody sits, for the walk to a room.
alter table person add column floor text not null default '';

-- Busy times that people of other organizations publish, as VFREEBUSY at an address of theirs.
create table published_calendar (
  person_id integer primary key references person on delete cascade,
  address text not null,
  -- When the times kept here were read; null before the first time.
  read_at timestamptz,
  -- When it was last tried, and what was wrong then.
  tried_at timestamptz,
  failure text,
  -- What the publisher said its times are of; outside it nothing is known.
  covers tstzrange
);

create table published_busy (
  person_id integer not null references published_calendar on delete cascade,
  during tstzrange not null check (not isempty(during)),
  occupancy text not null check (occupancy in ('busy', 'tentative', 'away'))
);
create index published_busy_during on published_busy using gist (person_id, during);

-- Line-ups that somebody remembers, with roles: [{"id": 12, "role": "required"}].
create table line_up (
  id integer generated always as identity primary key,
  owner_id integer not null references person on delete cascade,
  name text not null,
  members jsonb not null,
  unique (owner_id, name)
);

-- Down Migration

drop table line_up, published_busy, published_calendar;
alter table person drop column floor;
