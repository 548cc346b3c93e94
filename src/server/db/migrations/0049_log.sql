-- Up Migration

-- The log of the whole house, by who did it and by what it was done to, the latest first.
create index fact_actor on fact (actor_id, id);
create index fact_kind_of_thing on fact (thing, id) where thing is not null;
create index fact_of_meeting on fact (id) where event_id is not null;

-- Down Migration

drop index fact_of_meeting, fact_kind_of_thing, fact_actor;
