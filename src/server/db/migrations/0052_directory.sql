-- Up Migration

-- By which the organization's directory makes, changes and ends accounts (SCIM 2.0): one at a time, as a hash.
create table directory_token (
  is_one boolean primary key default true check (is_one),
  hash bytea not null,
  made_at timestamptz not null,
  used_at timestamptz
);
-- What the directory calls somebody, and whether it has deleted them: they are found there no more, and stay here
-- as somebody whose access ended.
alter table person
  add column external_id text,
  -- The name that it gives them, where that is no mail address.
  add column user_name text,
  add column is_unlisted boolean not null default false;
create unique index person_user_name on person (lower(user_name)) where not is_unlisted;
create index person_external on person (external_id) where external_id is not null;
alter table team add column external_id text;

-- Down Migration

alter table team drop column external_id;
alter table person drop column external_id, drop column user_name, drop column is_unlisted;
drop table directory_token;
