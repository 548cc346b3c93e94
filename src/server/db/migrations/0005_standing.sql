-- Up Migration

-- Zones are known by the names of the zone database alone.
create temporary table renamed (old text primary key, zone text not null);
insert into renamed values
  ('Africa/Asmera', 'Africa/Asmara'),
  ('America/Buenos_Aires', 'America/Argentina/Buenos_Aires'),
  ('America/Catamarca', 'America/Argentina/Catamarca'),
  ('America/Coral_Harbour', 'America/Atikokan'),
  ('America/Cordoba', 'America/Argentina/Cordoba'),
  ('America/Godthab', 'America/Nuuk'),
  ('America/Indianapolis', 'America/Indiana/Indianapolis'),
  ('America/Jujuy', 'America/Argentina/Jujuy'),
  ('America/Louisville', 'America/Kentucky/Louisville'),
  ('America/Mendoza', 'America/Argentina/Mendoza'),
  ('Asia/Calcutta', 'Asia/Kolkata'),
  ('Asia/Katmandu', 'Asia/Kathmandu'),
  ('Asia/Rangoon', 'Asia/Yangon'),
  ('Asia/Saigon', 'Asia/Ho_Chi_Minh'),
  ('Atlantic/Faeroe', 'Atlantic/Faroe'),
  ('Europe/Kiev', 'Europe/Kyiv'),
  ('Pacific/Enderbury', 'Pacific/Kanton'),
  ('Pacific/Ponape', 'Pacific/Pohnpei'),
  ('Pacific/Truk', 'Pacific/Chuuk'),
  ('US/Pacific-New', 'America/Los_Angeles');
update site set zone = renamed.zone from renamed where site.zone = old;
update person set zone = renamed.zone from renamed where person.zone = old;
update person set further_zones =
  array(select coalesce(renamed.zone, given) from unnest(further_zones) with ordinality as each (given, place)
        left join renamed on renamed.old = given order by place)
where further_zones && array(select old from renamed);
update event set zone = renamed.zone from renamed where event.zone = old;
update event set end_zone = renamed.zone from renamed where event.end_zone = old;
update occurrence_override as own set zone = renamed.zone from renamed where own.zone = old;
update occurrence_override as own set end_zone = renamed.zone from renamed where own.end_zone = old;
drop table renamed;

-- Devices from which somebody signed in before: they are not made to wait while others guess.
create table device (
  -- SHA-256 of the device's cookie.
  token_hash bytea not null,
  person_id integer not null references person on delete cascade,
  seen_at timestamptz not null,
  primary key (token_hash, person_id)
);
create index device_person on device (person_id);
create index device_age on device (seen_at);

create index mail_sender on mail (sender_email, created_at);

-- Down Migration

drop index mail_sender;
drop table device;

-- Names that mean the same zone need not be told apart again.
