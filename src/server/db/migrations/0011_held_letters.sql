-- Up Migration

-- What a letter about a meeting tells, and of which of its versions, so that it can be held back for a
-- moment and taken back before it leaves.
alter table mail add column occasion text, add column version integer;

-- Down Migration

alter table mail drop column occasion, drop column version;
