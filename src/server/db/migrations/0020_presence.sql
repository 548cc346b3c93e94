-- Up Migration

-- Since when somebody is there, when they left what they had for longer, and when they were warned
-- that it is given to others unless they come.
alter table reservation add column used_at timestamptz;
alter table reservation add column left_at timestamptz;
alter table reservation add column warned_at timestamptz;
-- Those a steward has yet to agree to; few at any time.
create index reservation_requested on reservation (since) where state = 'requested';

-- Bookings to which nobody came, kept when the place is long given to others.
create table no_show (
  id bigint generated always as identity primary key,
  resource_id integer not null references resource on delete cascade,
  -- Who had it.
  person_id integer references person on delete set null,
  starts_at timestamptz not null,
  ends_at timestamptz not null,
  noted_at timestamptz not null
);
create index no_show_resource on no_show (resource_id, starts_at);
create index no_show_person on no_show (person_id, starts_at);

-- Down Migration

drop table no_show;
drop index reservation_requested;
alter table reservation drop column warned_at;
alter table reservation drop column left_at;
alter table reservation drop column used_at;
