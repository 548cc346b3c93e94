-- Up Migration

-- Whose own address it came to; null where it came to the address of a letter.
alter table incoming_mail add column person_id bigint references person on delete cascade;
create index incoming_mail_person on incoming_mail (person_id);

-- Down Migration

alter table incoming_mail drop column person_id;
