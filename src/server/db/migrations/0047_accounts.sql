-- Up Migration

-- Whether somebody can sign in: 'none' are people of partners, 'invited' wait for their password, 'removed'
-- were added and taken back before they were there.
alter table person
  add column account text not null default 'none'
    check (account in ('none', 'invited', 'active', 'ended', 'removed')),
  add column version integer not null default 1,
  -- When they used Marmot last, to a few minutes.
  add column seen_at timestamptz;
update person set account = 'active' where password_hash is not null;
create index person_account on person (organization_id, account);

-- A link that was sent to somebody by letter, or handed over: good once, and until then.
create table account_link (
  token_hash bytea primary key,
  person_id integer not null references person on delete cascade,
  purpose text not null check (purpose in ('welcome', 'password')),
  created_at timestamptz not null,
  expires_at timestamptz not null
);
create index account_link_person on account_link (person_id);
create index account_link_expires on account_link (expires_at);

alter table session
  add column id bigint generated always as identity unique,
  add column browser text not null default '',
  add column seen_at timestamptz;
update session set seen_at = created_at;
alter table session alter column seen_at set not null, alter column seen_at set default now();

alter table mail
  -- What only its receiver reads, such as the end of a link; it is forgotten when the letter has left.
  add column secret text,
  -- What it is for, where that is no meeting: a welcome, a password, a trial.
  add column purpose text,
  -- Whom it is to, by which what became of it is found.
  add column person_id integer references person on delete set null;
create index mail_person on mail (person_id, created_at) where person_id is not null;

alter table site
  add column version integer not null default 1,
  -- What new people there begin with: shifts by weekday, Monday first, minutes after midnight.
  add column hours jsonb not null default '[[{"start":540,"end":1020}],[{"start":540,"end":1020}],[{"start":540,"end":1020}],[{"start":540,"end":1020}],[{"start":540,"end":1020}],[],[]]',
  add column removed_at timestamptz;

alter table organization
  -- What new people begin with.
  add column first_weekday smallint not null default 1 check (first_weekday between 1 and 7),
  add column clock text not null default '24' check (clock in ('24', '12'));

-- Letters leave once somebody has seen one arrive; where people are already, they do.
insert into setting (key, value)
select 'letters-arrive', to_jsonb((extract(epoch from now()) * 1000)::bigint)
where exists (select from person where account = 'active');

-- Down Migration


delete from setting where key = 'letters-arrive';
alter table organization drop column first_weekday, drop column clock;
alter table site drop column version, drop column hours, drop column removed_at;
alter table mail drop column secret, drop column purpose, drop column person_id;
alter table session drop column id, drop column browser, drop column seen_at;
drop table account_link;
alter table person drop column account, drop column version, drop column seen_at;
