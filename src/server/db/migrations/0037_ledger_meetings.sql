-- Up Migration

-- Of which meeting a booking is, beside it: what bookings are for is read once for each meeting, and not
-- by way of the date of each.
alter table reservation add column event_id uuid;
update reservation set event_id = occurrence.event_id
from occurrence where occurrence.id = reservation.occurrence_id;
alter table reservation alter column event_id set not null;

drop index reservation_start, reservation_place;
create index reservation_start on reservation (starts_at, id)
  include (resource_id, minutes, state, occurrence_id, holder_id, event_id);
-- The bookings of those meetings that words name.
create index reservation_event on reservation (event_id, starts_at);
-- The bookings of a place in the order of time.
create index reservation_place on reservation (resource_id, starts_at, id) include (minutes, state);

-- A meeting by itself, as far as it is shown: what is not sent is nobody's but its organizer's.
create view shown_event as
  select id, title, organizer_id, case when draft is null then visibility else 'draft' end as visibility
  from event;

-- Down Migration

drop view shown_event;
drop index reservation_start, reservation_place, reservation_event;
alter table reservation drop column event_id;
create index reservation_start on reservation (starts_at, id)
  include (resource_id, minutes, state, occurrence_id, holder_id);
create index reservation_place on reservation (resource_id, starts_at) include (minutes, state);
