-- Up Migration

-- When a reservation is and whose, beside it: the ledger sorts and counts millions of them by index.
alter table reservation
  add column starts_at timestamptz,
  add column ends_at timestamptz,
  add column holder_id integer references person;
update reservation
set starts_at = occurrence.starts_at, ends_at = occurrence.ends_at, holder_id = event.organizer_id
from occurrence join event on event.id = occurrence.event_id
where occurrence.id = reservation.occurrence_id;
alter table reservation
  alter column starts_at set not null,
  alter column ends_at set not null;
create index reservation_start on reservation (starts_at, id) include (resource_id, ends_at, state);
create index reservation_place on reservation (resource_id, starts_at) include (ends_at, state);
drop index reservation_resource;
create index reservation_holder on reservation (holder_id, starts_at);

-- How somebody likes to look at the ledger.
create table ledger_view (
  id integer generated always as identity primary key,
  owner_id integer not null references person on delete cascade,
  name text not null,
  -- As the view's address writes it.
  query text not null,
  unique (owner_id, name)
);

-- Down Migration

drop table ledger_view;
create index reservation_resource on reservation (resource_id);
drop index reservation_start, reservation_place, reservation_holder;
alter table reservation drop column starts_at, drop column ends_at, drop column holder_id;
