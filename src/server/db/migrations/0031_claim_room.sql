-- Up Migration

-- An answer changes how a claim is taken and nothing that is indexed: with room on its page it is written there,
-- and no index is touched.
alter table claim set (fillfactor = 80);
-- One person's claims on the dates of a series are found without looking at everybody else's.
create index claim_occurrence_subject on claim (occurrence_id, subject_id);
drop index claim_occurrence;

-- How somebody's time is to be taken on each date: what `effective_occurrence` and `effective_reply` say
-- together, in one reading of the dates.
create view effective_presence as
  select occurrence.id as occurrence_id, occurrence.event_id, occurrence.recurrence_at,
         occurrence.starts_at, occurrence.ends_at, event.status,
         attendee.person_id, attendee.role,
         coalesce(answer.reply, attendee.reply) as reply,
         case when event.draft is null or coalesce(own.shows_as, event.shows_as) = 'free'
              then coalesce(own.shows_as, event.shows_as)
              when (event.draft->>'holds')::boolean then 'tentative'
              else 'free' end as shows_as
  from occurrence
  join event on event.id = occurrence.event_id
  join attendee on attendee.event_id = occurrence.event_id
  left join occurrence_override own
    on own.event_id = occurrence.event_id and own.recurrence_at = occurrence.recurrence_at
  left join occurrence_reply answer
    on answer.attendee_id = attendee.id and answer.recurrence_at = occurrence.recurrence_at;

-- Down Migration

drop view effective_presence;
create index claim_occurrence on claim (occurrence_id);
drop index claim_occurrence_subject;
alter table claim reset (fillfactor);
