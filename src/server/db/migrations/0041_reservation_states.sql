-- Up Migration

-- No reservation was ever `waiting`: who waits for a place stands in a table of its own.
alter table reservation drop constraint reservation_state_check;
alter table reservation add constraint reservation_state_check
  check (state in ('requested', 'held', 'in-use', 'released')) not valid;
alter table reservation validate constraint reservation_state_check;

-- Down Migration

alter table reservation drop constraint reservation_state_check;
alter table reservation add constraint reservation_state_check
  check (state in ('requested', 'held', 'in-use', 'released', 'waiting'));
