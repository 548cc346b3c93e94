-- Up Migration

-- Stewards change places at the same time; what one read, another may have changed.
alter table resource add column version integer not null default 1;
-- Since when nobody books it any more; what happened in it stays.
alter table resource add column retired_at timestamptz;

-- Down Migration

alter table resource drop column retired_at;
alter table resource drop column version;
