-- Up Migration

-- When somebody asked that a person who left be forgotten: names and addresses go part by part, their own last.
alter table person add column forget_at timestamptz;

-- Down Migration

alter table person drop column forget_at;
