-- Up Migration

-- What the links of people outside are made with; without it none can be made up. Two random UUIDs
-- have 244 random bits.
insert into setting (key, value)
values ('guest-key', to_jsonb(gen_random_uuid()::text || gen_random_uuid()::text));

-- Down Migration

delete from setting where key = 'guest-key';
