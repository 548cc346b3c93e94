-- Up Migration

-- Who vouches for people besides their own password (OpenID Connect).
create table sign_in_provider (
  id integer generated always as identity primary key,
  name text not null,
  -- Its issuer identifier, by which everything else is discovered.
  issuer text not null,
  client_id text not null,
  -- Read by nobody but whoever asks for tokens.
  client_secret text not null,
  -- What somebody becomes whom it vouches for and nobody here is; null lets nobody in.
  lets_in text check (lets_in in ('staff', 'steward')),
  version integer not null default 1,
  removed_at timestamptz
);
create unique index sign_in_provider_there on sign_in_provider (issuer, client_id) where removed_at is null;

-- Whose a provider's subject is: settled once by a verified address, and by the subject from then on.
create table provider_identity (
  provider_id integer not null references sign_in_provider on delete cascade,
  subject text not null,
  person_id integer not null references person on delete cascade,
  since timestamptz not null,
  primary key (provider_id, subject),
  unique (person_id, provider_id)
);

-- A browser that went to a provider and has not come back.
create table sign_in_attempt (
  state_hash bytea primary key,
  provider_id integer not null references sign_in_provider on delete cascade,
  browser_hash bytea not null,
  nonce text not null,
  verifier text not null,
  leads_to text not null,
  expires_at timestamptz not null
);
create index sign_in_attempt_expiry on sign_in_attempt (expires_at);
create index sign_in_attempt_provider on sign_in_attempt (provider_id);

-- Signing out ends the session at the provider, too, which wants to hear whose it was.
alter table session
  add column provider_id integer references sign_in_provider on delete set null,
  add column id_token text;
create index session_provider on session (provider_id) where provider_id is not null;

-- Keys that devices keep (WebAuthn), of one person several.
create table passkey (
  id integer generated always as identity primary key,
  credential_id text not null unique,
  person_id integer not null references person on delete cascade,
  public_key bytea not null,
  counter bigint not null,
  transports text[] not null,
  name text not null,
  created_at timestamptz not null,
  used_at timestamptz
);
create index passkey_person on passkey (person_id);

-- What a device is asked to sign, once and within minutes.
create table passkey_challenge (
  challenge text primary key,
  -- Null where nobody is known yet.
  person_id integer references person on delete cascade,
  expires_at timestamptz not null
);
create index passkey_challenge_expiry on passkey_challenge (expires_at);
create index passkey_challenge_person on passkey_challenge (person_id);

-- Down Migration

drop table passkey_challenge, passkey;
alter table session drop column provider_id, drop column id_token;
drop table sign_in_attempt, provider_identity, sign_in_provider;
