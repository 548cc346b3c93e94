-- Up Migration

-- Names are found although they are spelt with mistakes or without their accents.
create extension if not exists pg_trgm;
create extension if not exists unaccent;

-- Down Migration

drop extension if exists unaccent;
drop extension if exists pg_trgm;
