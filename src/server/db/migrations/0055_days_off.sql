-- Up Migration

-- What of a day is off, in minutes after its midnight: all of it unless something is said.
alter table holiday
  add column off_from smallint not null default 0,
  add column off_until smallint not null default 1440,
  add constraint holiday_part check (0 <= off_from and off_from < off_until and off_until <= 1440);

-- Down Migration

alter table holiday drop column off_from, drop column off_until;
