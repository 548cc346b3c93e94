-- Up Migration

-- The bookings and the dates of a span, with what leads from one to the other, out of the indexes alone:
-- going to each of a hundred thousand dates was most of the time of a page sorted or searched by words.
drop index reservation_start, occurrence_starts;
create index reservation_start on reservation (starts_at, id)
  include (resource_id, minutes, state, occurrence_id, holder_id);
create index occurrence_starts on occurrence (starts_at) include (id, event_id, recurrence_at);

-- Meetings by a word of their title, or of that of a date with one of its own.
create index event_title on event using gin (title gin_trgm_ops);
create index occurrence_override_title on occurrence_override using gin (title gin_trgm_ops)
  where title is not null;

-- Down Migration

drop index occurrence_override_title, event_title;
drop index reservation_start, occurrence_starts;
create index reservation_start on reservation (starts_at, id) include (resource_id, minutes, state);
create index occurrence_starts on occurrence (starts_at);
