-- Up Migration

-- Equality on integers beside overlap of ranges in one GiST index.
create extension if not exists btree_gist;

create table setting (
  key text primary key,
  value jsonb not null
);

create table organization (
  id integer generated always as identity primary key,
  name text not null unique,
  -- The organization whose installation this is; the others are partners.
  is_home boolean not null default false
);
create unique index organization_one_home on organization (is_home) where is_home;

create table site (
  id integer generated always as identity primary key,
  organization_id integer not null references organization,
  name text not null,
  city text not null,
  zone text not null,
  unique (organization_id, name)
);

-- Whatever can be in a line-up and have its time claimed.
create table subject (
  id integer generated always as identity primary key,
  kind text not null check (kind in ('person', 'resource')),
  name text not null
);

create table person (
  subject_id integer primary key references subject on delete cascade,
  organization_id integer not null references organization,
  site_id integer references site,
  email text not null,
  job_title text not null default '',
  zone text not null,
  -- Further zones shown in the header, by IANA name.
  further_zones text[] not null default '{}',
  clock text not null default '24' check (clock in ('24', '12')),
  role text not null default 'staff' check (role in ('staff', 'steward', 'administrator')),
  -- Null for people who do not sign in here.
  password_hash text,
  share_organization text not null default 'busy'
    check (share_organization in ('nothing', 'busy', 'titles', 'everything', 'edit', 'acts')),
  share_partners text not null default 'busy'
    check (share_partners in ('nothing', 'busy', 'titles', 'everything', 'edit', 'acts'))
);
create unique index person_email on person (lower(email));

-- Working hours: minutes after local midnight, half-open; above 1440 runs into the next day.
create table working_shift (
  person_id integer not null references person on delete cascade,
  weekday smallint not null check (weekday between 1 and 7),
  start_minute smallint not null check (start_minute between 0 and 1439),
  end_minute smallint not null check (end_minute > start_minute and end_minute <= 2880),
  primary key (person_id, weekday, start_minute)
);

create table team (
  id integer generated always as identity primary key,
  organization_id integer not null references organization,
  name text not null,
  unique (organization_id, name)
);

create table team_member (
  team_id integer not null references team on delete cascade,
  person_id integer not null references person on delete cascade,
  primary key (team_id, person_id)
);
create index team_member_person on team_member (person_id);

create table resource (
  subject_id integer primary key references subject on delete cascade,
  kind text not null
    check (kind in ('room', 'lab', 'desk', 'equipment', 'vehicle', 'parking')),
  site_id integer not null references site,
  floor text not null default '',
  capacity integer not null default 0 check (capacity >= 0),
  -- Identical units are numbered 1 to units.
  units smallint not null default 1 check (units >= 1),
  description text not null default '',
  features text[] not null default '{}',
  prepare_minutes smallint not null default 0 check (prepare_minutes >= 0),
  clear_minutes smallint not null default 0 check (clear_minutes >= 0)
);
create index resource_site on resource (site_id, kind);

create table event (
  id uuid primary key default gen_random_uuid(),
  uid text not null unique,
  sequence integer not null default 0,
  version integer not null default 1,
  organizer_id integer not null references person,
  created_by integer not null references person,
  title text not null,
  description text not null default '',
  place text not null default '',
  -- Wall time and zone are the truth; the occurrences' instants follow from them.
  starts_at timestamp not null,
  -- Which of two instants is meant where a clock change repeats the wall time.
  fold text not null default 'earlier' check (fold in ('earlier', 'later')),
  length_minutes integer not null check (length_minutes > 0),
  zone text not null,
  all_day boolean not null default false,
  rule text,
  except_at timestamp[] not null default '{}',
  shows_as text not null default 'busy'
    check (shows_as in ('busy', 'tentative', 'away', 'free')),
  visibility text not null default 'default'
    check (visibility in ('default', 'public', 'private')),
  status text not null default 'confirmed' check (status in ('confirmed', 'cancelled')),
  created_at timestamptz not null,
  updated_at timestamptz not null
);
create index event_organizer on event (organizer_id);

create table occurrence (
  id bigint generated always as identity primary key,
  event_id uuid not null references event on delete cascade,
  -- The wall time that names it within a series; null for a single event.
  recurrence_at timestamp,
  starts_at timestamptz not null,
  ends_at timestamptz not null,
  check (starts_at < ends_at)
);
create unique index occurrence_event on occurrence (event_id, recurrence_at) nulls not distinct;

create table attendee (
  id bigint generated always as identity primary key,
  event_id uuid not null references event on delete cascade,
  -- Null for people outside, who are known by their address alone.
  person_id integer references person,
  email text not null,
  name text not null,
  role text not null check (role in ('organizer', 'required', 'optional')),
  reply text not null default 'needs-action'
    check (reply in ('needs-action', 'accepted', 'tentative', 'declined')),
  note text not null default '',
  invited_at timestamptz not null,
  replied_at timestamptz
);
create unique index attendee_address on attendee (event_id, lower(email));
create index attendee_waiting on attendee (person_id) where reply = 'needs-action';
create index attendee_person on attendee (person_id);

create table reservation (
  event_id uuid not null references event on delete cascade,
  resource_id integer not null references resource,
  unit smallint not null default 1,
  primary key (event_id, resource_id, unit)
);
create index reservation_resource on reservation (resource_id);

-- Time taken from a subject. Free/busy is read from here alone.
create table claim (
  id bigint generated always as identity primary key,
  subject_id integer not null references subject,
  unit smallint not null default 1,
  during tstzrange not null check (not isempty(during)),
  occupancy text not null check (occupancy in ('busy', 'tentative', 'away', 'free')),
  occurrence_id bigint not null references occurrence on delete cascade,
  exclusive boolean not null default false,
  -- What makes a double booking impossible.
  constraint claim_never_twice
    exclude using gist (subject_id with =, unit with =, during with &&) where (exclusive)
);
create index claim_subject_during on claim using gist (subject_id, during);
create index claim_occurrence on claim (occurrence_id);

create table session (
  -- SHA-256 of the cookie's token, so that the table is of no use to a thief.
  token_hash bytea primary key,
  person_id integer not null references person on delete cascade,
  created_at timestamptz not null,
  expires_at timestamptz not null
);
create index session_person on session (person_id);

-- The answer to a write, kept so that a repeated request is answered again and not done again.
create table idempotency_key (
  person_id integer not null references person on delete cascade,
  key text not null,
  request_hash bytea not null,
  status integer,
  body jsonb,
  created_at timestamptz not null default now(),
  primary key (person_id, key)
);

create table action_log (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  actor_id integer references person,
  action text not null,
  event_id uuid,
  details jsonb not null default '{}'
);
create index action_log_event on action_log (event_id);

-- The outbox: written in the action's transaction, delivered by a job.
create table mail (
  id uuid primary key default gen_random_uuid(),
  event_id uuid references event on delete set null,
  sender_name text not null,
  sender_email text not null,
  recipient_name text not null,
  recipient_email text not null,
  subject text not null,
  body_text text not null,
  body_html text not null,
  calendar text,
  method text,
  created_at timestamptz not null,
  sent_at timestamptz
);
create index mail_event on mail (event_id);
create index mail_unsent on mail (created_at) where sent_at is null;

-- What the Mailroom has received, as it came over the wire.
create table mailroom_message (
  id uuid primary key default gen_random_uuid(),
  mail_id uuid not null unique,
  sender text not null,
  recipient text not null,
  subject text not null,
  source bytea not null,
  received_at timestamptz not null
);
create index mailroom_message_recipient on mailroom_message (lower(recipient), received_at desc);

-- Counters of rate-limiter-flexible.
create table rate_limit (
  key varchar(255) primary key,
  points integer not null default 0,
  expire bigint
);

-- Down Migration

drop table rate_limit, mailroom_message, mail, action_log, idempotency_key, session, claim,
  reservation, attendee, occurrence, event, resource, team_member, team, working_shift, person,
  subject, site, organization, setting;
