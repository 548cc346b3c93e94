-- Up Migration

-- Who writes for an organizer elsewhere, as that organizer's own letters or whoever they came to said.
create table believed_sender (
  person_id integer not null references person (subject_id) on delete cascade,
  organizer text not null,
  sender text not null,
  used_at timestamptz not null,
  primary key (person_id, organizer, sender)
);
create index believed_sender_used on believed_sender (used_at);

-- Down Migration

drop table believed_sender;
