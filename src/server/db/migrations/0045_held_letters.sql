-- Up Migration

-- Letters about one meeting leave in the order in which they were written.
alter table mail
  add column number bigint generated always as identity,
  -- The meeting that a held letter is about, which may be gone before it leaves.
  add column held_of uuid,
  -- Of which version its receiver last heard; null where they never did.
  add column before_version integer,
  -- Words of whoever sent it.
  add column said text not null default '',
  -- Since when something is held for its receiver: a letter takes the time of the one in whose place it is.
  add column held_since timestamptz;
create index mail_held on mail (held_of) where held_of is not null and sent_at is null and failed_at is null;

-- Meetings as the receivers of held letters last heard of them.
create table held_before (
  event_id uuid not null,
  version integer not null,
  meeting jsonb not null,
  created_at timestamptz not null,
  primary key (event_id, version)
);
create index held_before_created on held_before (created_at);

-- Down Migration

drop table held_before;
drop index mail_held;
alter table mail drop column number, drop column held_of, drop column before_version, drop column said, drop column held_since;
