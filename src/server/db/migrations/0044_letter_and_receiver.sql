-- Up Migration

-- One letter × one receiver is a thing of its own, taken once: by its Message-ID, the address that it came to,
-- and what is in it. Rows from before this have neither of the latter two.
alter table incoming_mail
  drop constraint incoming_mail_message_id_key,
  add column recipient text not null default '',
  add column digest text not null default '',
  -- Why what was counted was believed, and what of it was not kept: sentences.
  add column why text not null default '',
  -- Whom its sender sends in their place; asked once the organizer agrees.
  add column sends text,
  -- The UID of a meeting that it cancels, whose invitation has not come.
  add column cancels text,
  -- Whether it can be read once somebody says by whose clock its times are.
  add column wants_clock boolean not null default false;
create unique index incoming_mail_once on incoming_mail (message_id, recipient, digest);
create index incoming_mail_cancels on incoming_mail (cancels) where cancels is not null;

-- Who writes for somebody elsewhere: for an organizer, or for one who is invited.
alter table believed_sender rename column organizer to principal;

-- Of a series elsewhere that is not known here, the one date that somebody was asked to:
-- {"uid": …, "at": …, "zone": …, "allDay": …}.
alter table event add column date_of jsonb;
create index event_date_of on event ((date_of ->> 'uid')) where date_of is not null;

-- Down Migration

drop index event_date_of;
alter table event drop column date_of;
alter table believed_sender rename column principal to organizer;
delete from incoming_mail older using incoming_mail newer
  where older.message_id = newer.message_id and older.id < newer.id;
drop index incoming_mail_cancels;
drop index incoming_mail_once;
alter table incoming_mail
  drop column recipient, drop column digest, drop column why, drop column sends, drop column cancels,
  drop column wants_clock, add constraint incoming_mail_message_id_key unique (message_id);
