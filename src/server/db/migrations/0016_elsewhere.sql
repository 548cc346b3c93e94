-- Up Migration

-- A meeting that somebody outside organizes has no organizer here.
alter table event alter column organizer_id drop not null;

-- Down Migration

delete from event where organizer_id is null;
alter table event alter column organizer_id set not null;
