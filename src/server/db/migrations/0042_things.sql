-- Up Migration

-- What happens to things that are no meetings, and how it is taken back, is kept with what happens to meetings.
alter table fact add column thing text, add column thing_id bigint,
  add check ((thing is null) = (thing_id is null)),
  add check (thing is null or event_id is null);
create index fact_thing on fact (thing, thing_id, id) where thing is not null;

alter table event_revision rename to revision;
alter index event_revision_at rename to revision_at;
alter index event_revision_by rename to revision_by;
alter table revision drop constraint event_revision_pkey;
alter table revision
  add column id bigint generated always as identity primary key,
  add column thing text,
  add column thing_id bigint,
  -- [[id, version], …]: changes of meetings that were made with it, and are taken back with it.
  add column meetings jsonb,
  alter column event_id drop not null,
  alter column version drop not null,
  add check ((event_id is null) = (version is null)),
  add check ((thing is null) = (thing_id is null)),
  add check ((thing is null) <> (event_id is null));
create unique index revision_event on revision (event_id, version) where event_id is not null;
create index revision_thing on revision (thing, thing_id, id) where thing is not null;
alter table fact add column revision_id bigint references revision on delete set null;
create index fact_revision on fact (revision_id) where revision_id is not null;

-- Down Migration

drop index fact_revision;
alter table fact drop column revision_id;
delete from revision where event_id is null;
drop index revision_thing, revision_event;
alter table revision drop column meetings, drop column thing, drop column thing_id, drop column id,
  alter column event_id set not null, alter column version set not null;
alter table revision add primary key (event_id, version);
alter index revision_by rename to event_revision_by;
alter index revision_at rename to event_revision_at;
alter table revision rename constraint revision_pkey to event_revision_pkey;
alter table revision rename to event_revision;
drop index fact_thing;
delete from fact where thing is not null;
alter table fact drop column thing_id, drop column thing;
