-- Up Migration

-- Who plans, answers and books for somebody else.
create table delegate (
  principal_id integer not null references person on delete cascade,
  delegate_id integer not null references person on delete cascade,
  -- What of the news of the one the other hears of, too.
  receives text not null check (receives in ('nothing', 'invitations', 'everything')),
  since timestamptz not null,
  primary key (principal_id, delegate_id),
  check (principal_id <> delegate_id)
);
create index delegate_acts on delegate (delegate_id);

-- Down Migration

drop table delegate;
