-- Up Migration

-- `hidden` is private, and says of a place not even by whom it is taken.
alter table event drop constraint event_visibility_check;
alter table event add constraint event_visibility_check
  check (visibility in ('default', 'public', 'private', 'hidden')) not valid;
alter table event validate constraint event_visibility_check;
-- Lists by who has a place leave these out, and ask of no other event.
create index event_hidden on event (id) where visibility = 'hidden';

-- Down Migration

drop index event_hidden;
update event set visibility = 'private' where visibility = 'hidden';
alter table event drop constraint event_visibility_check;
alter table event add constraint event_visibility_check
  check (visibility in ('default', 'public', 'private'));
