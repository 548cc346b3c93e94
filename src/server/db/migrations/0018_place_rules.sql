-- Up Migration

-- What bookings are bound by, as core/booking reads it; what is not named is no bound.
alter table resource add column rules jsonb not null default '{}';

-- Down Migration

alter table resource drop column rules;
