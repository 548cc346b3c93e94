-- Up Migration

-- When a place is out of use; its claims keep others from booking it meanwhile.
create table closure (
  id integer generated always as identity primary key,
  resource_id integer not null references resource on delete cascade,
  starts_at timestamptz not null,
  ends_at timestamptz not null check (ends_at > starts_at),
  reason text not null,
  made_by integer references person on delete set null,
  made_at timestamptz not null
);
create index closure_resource on closure (resource_id, starts_at);
create index closure_made_by on closure (made_by);

-- What takes a place is a date of something that happens, or that it is out of use.
alter table claim alter column occurrence_id drop not null;
alter table claim add column closure_id integer references closure on delete cascade;
create index claim_closure on claim (closure_id) where closure_id is not null;
alter table claim drop constraint claim_check;
alter table claim add constraint claim_check
  check ((reservation_id is not null or closure_id is not null) = exclusive
         and (occurrence_id is null) = (closure_id is not null));

-- By how much bookings of somebody's own may be moved when their place goes out of use. Minutes.
alter table preference add column shift_minutes smallint not null default 0
  check (shift_minutes between 0 and 240);

-- Down Migration

alter table preference drop column shift_minutes;
delete from claim where closure_id is not null;
alter table claim drop constraint claim_check;
alter table claim add constraint claim_check check ((reservation_id is not null) = exclusive);
drop index claim_closure;
alter table claim drop column closure_id;
alter table claim alter column occurrence_id set not null;
drop table closure;
