-- Up Migration

-- For which time a steward agreed to a reservation, where it is not the one that it has: within that it
-- is asked of nobody again.
alter table reservation add column agreed tstzrange;

-- Down Migration

alter table reservation drop column agreed;
