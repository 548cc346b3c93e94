-- Up Migration

-- Whose work a job is: what it does is marked by whoever has its lease, and by nobody whose lease ran out.
alter table job add column lease uuid;

-- A series whose last date is laid out is not looked at again until it is changed.
alter table event add column is_laid_out_whole boolean not null default false;
drop index event_kept_until;
create index event_kept_until on event (kept_until)
  where rule is not null and status = 'confirmed' and not is_laid_out_whole;

-- Old reminders, and whatever else is forgotten by its age, are found by it.
create index reminder_notice_due on reminder_notice (due_at);

-- Down Migration

drop index reminder_notice_due;
drop index event_kept_until;
create index event_kept_until on event (kept_until) where rule is not null and status = 'confirmed';
alter table event drop column is_laid_out_whole;
alter table job drop column lease;
