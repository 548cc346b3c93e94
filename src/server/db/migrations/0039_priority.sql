-- Up Migration

-- From 1, the highest, to 9; 0 where nothing is said (RFC 5545 section 3.8.1.9). A date may have its own.
alter table event add column priority smallint not null default 0
  check (priority between 0 and 9);
alter table occurrence_override add column priority smallint
  check (priority between 0 and 9);

-- Down Migration

alter table occurrence_override drop column priority;
alter table event drop column priority;
