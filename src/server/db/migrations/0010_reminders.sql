-- Up Migration

-- Whoever is invited and has chosen reminders of their own for an event, be it none; for the others
-- those of their preferences hold.
create table reminder_choice (
  event_id uuid not null references event on delete cascade,
  person_id integer not null references person on delete cascade,
  primary key (event_id, person_id)
);
create index reminder_choice_person on reminder_choice (person_id);

create index reminder_minutes on reminder (minutes_before);
create index occurrence_starts on occurrence (starts_at);

-- Reminders that came due: one row for each, so that none comes twice.
create table reminder_notice (
  id bigint generated always as identity primary key,
  person_id integer not null references person on delete cascade,
  occurrence_id bigint not null references occurrence on delete cascade,
  -- When the meeting began as it was reminded of; moved, it is reminded of anew.
  starts_at timestamptz not null,
  minutes_before integer not null,
  means text not null check (means in ('popup', 'mail')),
  -- When it is shown; put off, later.
  due_at timestamptz not null,
  dismissed_at timestamptz,
  unique (person_id, occurrence_id, starts_at, minutes_before, means)
);
create index reminder_notice_occurrence on reminder_notice (occurrence_id);
create index reminder_notice_open on reminder_notice (person_id) where dismissed_at is null and means = 'popup';

-- Up to when reminders were looked for; epoch milliseconds.
insert into setting (key, value) values ('reminded-until', 'null');

-- Down Migration

delete from setting where key = 'reminded-until';
drop table reminder_notice, reminder_choice;
drop index occurrence_starts, reminder_minutes;
