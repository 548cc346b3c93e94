-- Up Migration

-- What a meeting wants is written before the places themselves are held and looked at: one that is none is refused
-- there, in words. Its name is from when the table had another.
alter table event_resource rename constraint reservation_resource_id_fkey to event_resource_place;
alter table event_resource alter constraint event_resource_place deferrable initially deferred;

-- Down Migration

alter table event_resource alter constraint event_resource_place not deferrable;
alter table event_resource rename constraint event_resource_place to reservation_resource_id_fkey;
