-- Up Migration

-- Whose a place is, such as a desk; others have it on the days on which its owner gives it free.
alter table resource add column owner_id integer references person on delete set null;
create index resource_owner on resource (owner_id) where owner_id is not null;
create table place_free_day (
  resource_id integer not null references resource on delete cascade,
  -- On the place's own clock.
  day date not null,
  primary key (resource_id, day)
);

-- What a place is bound by besides its rules: whose it is, and when it is free for others.
create function assignment(place resource) returns jsonb language sql stable as $$
  select case when place.owner_id is null then '{}'::jsonb else jsonb_build_object('assigned',
    jsonb_build_object(
      'ownerId', place.owner_id,
      'owner', (select name from subject where id = place.owner_id),
      'freeDays', coalesce((select jsonb_agg(to_char(day, 'YYYY-MM-DD') order by day)
                            from place_free_day where resource_id = place.subject_id), '[]'))) end
$$;

-- How a place looks.
create table place_photo (
  resource_id integer primary key references resource on delete cascade,
  -- Another one is read anew by whoever has kept the one before.
  version integer not null default 1,
  type text not null,
  content bytea not null
);

-- A steward's note of a booking, and whom to ask about it: what those who look after places read alone.
create table booking_note (
  event_id uuid primary key references event on delete cascade,
  note text not null default '',
  contact text not null default ''
);
-- Whom to ask about somebody's bookings, as they last said it.
alter table preference add column booking_contact text not null default '';

-- Down Migration

alter table preference drop column booking_contact;
drop table booking_note;
drop table place_photo;
drop function assignment(resource);
drop table place_free_day;
drop index resource_owner;
alter table resource drop column owner_id;
