-- Up Migration

-- Who waits for a place that is taken, for a time of their own.
create table waiting (
  id integer generated always as identity primary key,
  resource_id integer not null references resource on delete cascade,
  person_id integer not null references person on delete cascade,
  starts_at timestamptz not null,
  ends_at timestamptz not null check (ends_at > starts_at),
  title text not null,
  -- Whether they have it at once, or are asked first.
  wants text not null check (wants in ('told', 'given')),
  asked_at timestamptz not null,
  -- What holds it for them, once it came free, and until when.
  event_id uuid references event on delete set null,
  offered_until timestamptz,
  check ((event_id is null) or (offered_until is not null)),
  unique (person_id, resource_id, starts_at, ends_at)
);
create index waiting_resource on waiting (resource_id);
create index waiting_event on waiting (event_id);
create index waiting_asked on waiting (asked_at, id);

-- Down Migration

drop table waiting;
