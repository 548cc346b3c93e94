-- Up Migration

-- Mail that came back: what was made of it, and why.
create table incoming_mail (
  id uuid primary key default gen_random_uuid(),
  received_at timestamptz not null,
  -- Its Message-ID, by which a mail that comes twice is known.
  message_id text not null unique,
  sender text not null,
  subject text not null,
  words text not null,
  calendar text,
  state text not null check (state in ('counted', 'automatic', 'bounced', 'aside', 'settled')),
  -- Why it was put aside, in a sentence.
  reason text not null default '',
  event_id uuid references event on delete cascade,
  attendee_id bigint references attendee on delete set null
);
create index incoming_mail_event on incoming_mail (event_id);
create index incoming_mail_attendee on incoming_mail (attendee_id);
create index incoming_mail_received on incoming_mail (received_at);

-- Down Migration

drop table incoming_mail;
