-- Up Migration

-- How many bookings each place has in each week (from Monday, UTC), and for how long in all: what is put
-- together of years is added up of these. What is written changes no row that others write as well: it
-- stands beside, and is added to the sums from time to time.
create table booking_tally (
  resource_id integer not null references resource (subject_id) on delete cascade,
  week date not null,
  state text not null,
  bookings integer not null,
  minutes bigint not null,
  primary key (week, resource_id, state)
);
create table booking_tally_change (
  resource_id integer not null references resource (subject_id) on delete cascade,
  week date not null,
  state text not null,
  bookings integer not null,
  minutes bigint not null
);
create index booking_tally_nothing on booking_tally (week) where bookings = 0 and minutes = 0;
create index booking_tally_resource on booking_tally (resource_id);
create index booking_tally_change_resource on booking_tally_change (resource_id);

-- Whoever changes bookings, by whatever way, keeps this right: those that go with what is deleted, too.
create function tally_made() returns trigger language plpgsql as $$
begin
  insert into booking_tally_change (resource_id, week, state, bookings, minutes)
  select resource_id, date_trunc('week', starts_at at time zone 'UTC')::date, state, count(*), sum(minutes)
  from made group by 1, 2, 3;
  return null;
end $$;
create function tally_gone() returns trigger language plpgsql as $$
begin
  insert into booking_tally_change (resource_id, week, state, bookings, minutes)
  select resource_id, date_trunc('week', starts_at at time zone 'UTC')::date, state, -count(*), -sum(minutes)
  from gone group by 1, 2, 3;
  return null;
end $$;
create function tally_changed() returns trigger language plpgsql as $$
begin
  insert into booking_tally_change (resource_id, week, state, bookings, minutes)
  select resource_id, date_trunc('week', starts_at at time zone 'UTC')::date, state, sum(n), sum(n * minutes)
  from (select resource_id, starts_at, state, minutes, 1 as n from made
        union all select resource_id, starts_at, state, minutes, -1 from gone) changed
  group by 1, 2, 3
  having sum(n) <> 0 or sum(n * minutes) <> 0;
  return null;
end $$;
create trigger reservation_made after insert on reservation
  referencing new table as made for each statement execute function tally_made();
create trigger reservation_gone after delete on reservation
  referencing old table as gone for each statement execute function tally_gone();
create trigger reservation_changed after update on reservation
  referencing old table as gone new table as made for each statement execute function tally_changed();

insert into booking_tally (resource_id, week, state, bookings, minutes)
select resource_id, date_trunc('week', starts_at at time zone 'UTC')::date, state, count(*), sum(minutes)
from reservation group by 1, 2, 3;

-- Down Migration

drop trigger reservation_made on reservation;
drop trigger reservation_gone on reservation;
drop trigger reservation_changed on reservation;
drop function tally_made, tally_gone, tally_changed;
drop table booking_tally_change, booking_tally;
