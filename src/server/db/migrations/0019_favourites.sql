-- Up Migration

-- Places that somebody wants to see first.
create table favourite_place (
  person_id integer not null references person on delete cascade,
  resource_id integer not null references resource on delete cascade,
  primary key (person_id, resource_id)
);
create index favourite_place_resource on favourite_place (resource_id);

-- Down Migration

drop table favourite_place;
