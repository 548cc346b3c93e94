-- Up Migration

alter table team
  add column version integer not null default 1,
  -- Who leads it, one of its members.
  add column lead_id integer references person on delete set null,
  -- The team that it is a part of, which is itself a part of none.
  add column parent_id integer references team on delete set null,
  add column removed_at timestamptz;
create index team_lead on team (lead_id) where lead_id is not null;
create index team_parent on team (parent_id) where parent_id is not null;

create index team_organization on team (organization_id);
create index site_organization on site (organization_id);

-- A name is free again once what had it is removed.
alter table team drop constraint team_organization_id_name_key;
create unique index team_name on team (organization_id, lower(name)) where removed_at is null;
alter table site drop constraint site_organization_id_name_key;
create unique index site_name on site (organization_id, lower(name)) where removed_at is null;

-- Down Migration

drop index site_name, team_name, site_organization, team_organization;
alter table site add constraint site_organization_id_name_key unique (organization_id, name);
alter table team add constraint team_organization_id_name_key unique (organization_id, name);
alter table team drop column version, drop column lead_id, drop column parent_id, drop column removed_at;
