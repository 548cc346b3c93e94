-- Up Migration

-- What a long answer is made again from, in place of the answer itself.
alter table idempotency_key add column again jsonb;
-- One that is long and cannot be made again, packed (gzip).
alter table idempotency_key add column packed bytea;

-- Down Migration

alter table idempotency_key drop column packed, drop column again;
