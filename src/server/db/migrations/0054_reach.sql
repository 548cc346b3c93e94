-- Up Migration

-- Who stands in for a steward: looks after the same places, and is asked while the steward is away.
alter table person
  add column deputy_id integer references person on delete set null,
  add constraint person_deputy check (deputy_id <> subject_id);
create index person_deputy on person (deputy_id) where deputy_id is not null;

-- What a steward looks after: one place, or all of a site, a floor, a kind. One who has none looks after all.
create table charge (
  person_id integer not null references person on delete cascade,
  site_id integer references site on delete cascade,
  floor text check (length(floor) between 1 and 20),
  kind text check (kind in ('room', 'lab', 'desk', 'equipment', 'vehicle', 'parking')),
  place_id integer references resource on delete cascade,
  unique nulls not distinct (person_id, site_id, floor, kind, place_id),
  check (floor is null or site_id is not null),
  check (place_id is null or num_nonnulls(site_id, floor, kind) = 0),
  check (num_nonnulls(site_id, floor, kind, place_id) > 0)
);
create index charge_site on charge (site_id) where site_id is not null;
create index charge_place on charge (place_id) where place_id is not null;

-- The teams for whose people somebody plans, books, answers and records absence.
create table coordination (
  person_id integer not null references person on delete cascade,
  team_id integer not null references team on delete cascade,
  primary key (person_id, team_id)
);
create index coordination_team on coordination (team_id);

-- Which places stewards look after, themselves or for whom they stand in.
create view keeper as
  select steward.subject_id as steward_id, steward.deputy_id, resource.subject_id as place_id
  from person steward
  join resource on not exists (select from charge where charge.person_id = steward.subject_id)
    or exists (
      select from charge
      where charge.person_id = steward.subject_id
        and case when charge.place_id is not null then charge.place_id = resource.subject_id
                 else (charge.site_id is null or charge.site_id = resource.site_id)
                  and (charge.floor is null or charge.floor = resource.floor)
                  and (charge.kind is null or charge.kind = resource.kind) end)
  where steward.role = 'steward';

-- For whom somebody plans and answers: the people of the teams they coordinate, and of those teams' parts.
create view coordinated as
  select distinct coordination.person_id as coordinator_id, team_member.person_id
  from coordination
  join team on team.removed_at is null and coordination.team_id in (team.id, team.parent_id)
  join team_member on team_member.team_id = team.id
  where team_member.person_id <> coordination.person_id;

-- The floors of a site, from the lowest to the highest. Places name theirs; one that they name first is added.
create table floor (
  id integer primary key generated always as identity,
  site_id integer not null references site on delete cascade,
  name text not null check (length(name) between 1 and 20),
  position smallint not null,
  unique (site_id, name)
);
insert into floor (site_id, name, position)
select site_id, floor, row_number() over (partition by site_id order by length(floor), floor) - 1
from (select distinct site_id, floor from resource where floor <> '') there;

-- Down Migration

drop table floor;

drop view coordinated, keeper;
drop table coordination, charge;
alter table person drop column deputy_id;
