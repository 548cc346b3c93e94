-- Up Migration

-- Who made a change: those who look after places take back what they did to others' bookings themselves.
alter table event_revision add column by_id integer references person on delete set null;
create index event_revision_by on event_revision (by_id) where by_id is not null;

-- Down Migration

drop index event_revision_by;
alter table event_revision drop column by_id;
