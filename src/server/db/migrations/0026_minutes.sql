-- Up Migration

-- How long a booking is, as a number: out of an index it sums several times faster than two times.
alter table reservation
  add column minutes integer not null
    generated always as ((extract(epoch from ends_at - starts_at) / 60)::integer) stored;
drop index reservation_start, reservation_place;
create index reservation_start on reservation (starts_at, id) include (resource_id, minutes, state);
create index reservation_place on reservation (resource_id, starts_at) include (minutes, state);

-- Down Migration

drop index reservation_start, reservation_place;
create index reservation_start on reservation (starts_at, id) include (resource_id, ends_at, state);
create index reservation_place on reservation (resource_id, starts_at) include (ends_at, state);
alter table reservation drop column minutes;
