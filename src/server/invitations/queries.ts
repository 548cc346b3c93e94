import { SILENT_AFTER, SOON, TIME_TO_ANSWER } from '../../core/meetings/attention.ts';
import type {
  AnswerHistory,
  DatesFit,
  DraftMeeting,
  MeetingReplies,
  RepliesQuery,
  UnansweredList,
  WaitingInvitation,
} from '../../contract/invitations.ts';
import type { Spot } from '../../core/availability/way.ts';
import { instantJson } from '../db/json.ts';
import type { Database } from '../db/transaction.ts';
import { spanFor } from '../events/index.ts';
import {
  ANSWERS_COUNT_DAYS,
  MOST_COLLISIONS,
  MOST_CONFLICTS,
  MOST_DATES_COMPARED,
  MOST_DRAFTS,
  MOST_HISTORY,
  MOST_INVITATIONS,
  MOST_MEETINGS_NAMED,
  MOST_UNANSWERED,
} from './limits.ts';

/**
 * How the dates of a series to come fit somebody, as JSON.
 * @param eventId SQL of the series' id
 * @param personId SQL of the person's
 * @param now SQL of the present instant
 */
const datesFitJson = (eventId: string, personId: string, now: string) => `
  (select json_build_object(
            'count', count(*), 'fitting', count(*) filter (where title is null),
            'collisions', coalesce((json_agg(json_build_object('start', ${instantJson('starts_at')},
                                             'title', title) order by starts_at)
                                    filter (where title is not null and nth <= ${MOST_COLLISIONS})), '[]'))
   from (select date.starts_at, taken.title,
                count(taken.title) over (order by date.starts_at, date.id) as nth
         from (select * from effective_occurrence
               where event_id = ${eventId} and status = 'confirmed' and ends_at > ${now}
               order by starts_at limit ${MOST_DATES_COMPARED}) date
         left join lateral (
           select other.title from claim
           join effective_occurrence other on other.id = claim.occurrence_id
           where claim.subject_id = ${personId} and other.event_id <> date.event_id
             and claim.occupancy <> 'free'
             and claim.during && tstzrange(date.starts_at, date.ends_at)
           order by other.starts_at, other.id limit 1) taken on true) held)`;

/** How the dates of a series to come fit somebody. */
export async function readDatesFit(
  db: Database,
  eventId: string,
  personId: number,
  now: number,
): Promise<DatesFit> {
  const { rows } = await db.query<{ dates: DatesFit }>(
    `select ${datesFitJson('$1', '$2', '$3::timestamptz')} as dates`,
    [eventId, personId, new Date(now)],
  );
  return rows[0]!.dates;
}

/**
 * Invitations without my answer whose meeting is not over, by start: the next occurrence of each
 * series, and single occurrences that were moved and ask again. Those of whoever is named first come
 * first, then those of the people they act for.
 */
export async function readWaitingInvitations(
  db: Database,
  personIds: readonly number[],
  now: number,
): Promise<WaitingInvitation[]> {
  const { rows } = await db.query<WaitingInvitation>(
    `select next.event_id as "eventId", asked.occurrence, next.title,
            coalesce(subject.name, (select name from attendee host
                                    where host.event_id = next.event_id and host.role = 'organizer'))
              as organizer,
            case when asked.person_id <> ($1::int[])[1]
                 then json_build_object('id', asked.person_id, 'name', whose.name) end as for,
            ${spanFor('next', 'asked.person_id')},
            next.all_day as "allDay", asked.invited_at as "invitedAt", asked.role,
            next.rule is not null as recurring,
            coalesce((select json_agg(json_build_object('title', title,
                                        'start', ${instantJson('starts_at')},
                                        'end', ${instantJson('ends_at')}) order by starts_at, title)
                      from (select other.title, other.starts_at, other.ends_at
                            from claim
                            join effective_occurrence other on other.id = claim.occurrence_id
                            where claim.subject_id = asked.person_id and other.event_id <> next.event_id
                              and claim.occupancy <> 'free'
                              and claim.during && tstzrange(next.starts_at, next.ends_at)
                            order by other.starts_at limit ${MOST_CONFLICTS}) taken), '[]') as conflicts,
            case when next.rule is not null and asked.occurrence is null
                 then ${datesFitJson('next.event_id', 'asked.person_id', '$2')} end as dates
     from (select person_id, event_id, role, invited_at, null::timestamp as occurrence
           from attendee where person_id = any($1) and reply = 'needs-action'
           union all
           select attendee.person_id, attendee.event_id, attendee.role, answer.asked_at, answer.recurrence_at
           from attendee join occurrence_reply answer on answer.attendee_id = attendee.id
           where attendee.person_id = any($1) and attendee.reply <> 'needs-action'
             and answer.reply = 'needs-action') asked
     join lateral (select * from effective_occurrence
                   where event_id = asked.event_id and status = 'confirmed' and ends_at > $2
                     and (asked.occurrence is null or recurrence_at = asked.occurrence)
                   order by starts_at limit 1) next on true
     left join subject on subject.id = next.organizer_id
     join subject whose on whose.id = asked.person_id
     order by asked.person_id <> ($1::int[])[1], next.starts_at limit ${MOST_INVITATIONS}`,
    [personIds, new Date(now)],
  );
  return rows;
}

const interval = (milliseconds: number) => `interval '${milliseconds / 1000} seconds'`;
const [SILENT, CLOSE, ANSWERING] = [SILENT_AFTER, SOON, TIME_TO_ANSWER].map(interval);
/** When somebody was last asked. */
const ASKED = 'coalesce(attendee.nudged_at, attendee.invited_at)';

/**
 * Meetings with others that a person organizes and that are not over, with their next occurrence, and
 * whether they need their organizer, as `attentionTo` says it.
 */
const ORGANIZED = `
  select next.event_id, event.organizer_id, next.title, next.starts_at, next.ends_at, next.all_day,
         next.rule is not null as recurring,
         not exists (select 1 from attendee
                     where attendee.event_id = event.id and attendee.role <> 'organizer'
                       and attendee.reply = 'needs-action') as settled,
         exists (select 1 from attendee
                 where attendee.event_id = event.id and attendee.role <> 'organizer'
                   and (exists (select 1 from jsonb_array_elements(attendee.proposals) asked
                               where (asked->>'start')::numeric > extract(epoch from $2::timestamptz) * 1000)
                        or attendee.role = 'required' and attendee.reply = 'declined'
                        or attendee.reply = 'needs-action'
                           and (${ASKED} <= $2::timestamptz - ${SILENT}
                                or attendee.role = 'required' and next.starts_at <= $2::timestamptz + ${CLOSE}
                                   and $2::timestamptz - ${ASKED}
                                       >= least(${ANSWERING}, (next.starts_at - ${ASKED}) / 4)))
         ) as needing
  from event
  join lateral (select * from effective_occurrence
                where event_id = event.id and ends_at > $2::timestamptz
                order by starts_at limit 1) next on true
  where event.organizer_id = any($1::int[]) and event.status = 'confirmed'
    and exists (select 1 from attendee
                where attendee.event_id = event.id and attendee.role <> 'organizer')`;
/** What needs its organizer first, then what waits for answers; the last part makes the order one of a kind. */
const ORDER = 'not needing, settled, starts_at, event_id';

/**
 * Meetings with other people that a person organizes and that are not over, a part at a time, those
 * that wait for answers first: who answered what, to all of it and to single dates to come, and whom
 * the last letter did not reach.
 */
export async function readOrganized(
  db: Database,
  organizerIds: readonly number[],
  now: number,
  { event, after, limit }: RepliesQuery,
): Promise<MeetingReplies[]> {
  const { rows } = await db.query<MeetingReplies>(
    `with organized as materialized (${ORGANIZED}),
     part as (
       select * from organized
       where ($3::uuid is null or (${ORDER}) > (select ${ORDER} from organized where event_id = $3))
         and ($4::uuid is null or event_id = $4)
       order by ${ORDER} limit $5)
     select part.event_id as id, part.title,
            (select name from subject
             where id = part.organizer_id and id <> ($1::int[])[1]) as for,
            part.starts_at as start,
            part.ends_at as "end", part.all_day as "allDay", part.recurring,
            (select count(*) from incoming_mail
             where incoming_mail.event_id = part.event_id and state = 'aside') as aside,
            (select json_agg(json_build_object(
                'attendeeId', id, 'personId', person_id, 'name', name, 'email', email, 'role', role, 'reply', reply,
                'note', note, 'invitedAt', ${instantJson('invited_at')},
                'repliedAt', ${instantJson('replied_at')},
                'nudgedAt', ${instantJson('nudged_at')},
                'automatic', (select reason from incoming_mail
                              where attendee_id = participant.id and state = 'automatic'
                              order by received_at desc limit 1),
                'proposals', (select count(*) from jsonb_array_elements(proposals) one
                              where (one->>'start')::numeric > extract(epoch from $2::timestamptz) * 1000),
                'undelivered', (select failure from mail
                                where mail.attendee_id = participant.id
                                  and (sent_at is not null or failed_at is not null)
                                order by created_at desc limit 1))
              order by role = 'required' desc, name)
             from participant
             where participant.event_id = part.event_id and role <> 'organizer') as replies,
            coalesce((select json_agg(json_build_object(
                'attendeeId', participant.id, 'name', participant.name,
                'occurrence', to_char(answer.recurrence_at, 'YYYY-MM-DD"T"HH24:MI'),
                'start', ${instantJson('occurrence.starts_at')}, 'reply', answer.reply,
                'note', answer.note, 'repliedAt', ${instantJson('answer.replied_at')})
              order by occurrence.starts_at, participant.name)
             from occurrence_reply answer
             join participant on participant.id = answer.attendee_id
             join occurrence on occurrence.event_id = answer.event_id
               and occurrence.recurrence_at = answer.recurrence_at
             where answer.event_id = part.event_id and occurrence.ends_at > $2
               and answer.reply <> participant.reply), '[]') as dates
     from part order by ${ORDER}`,
    [organizerIds, new Date(now), after ?? null, event ?? null, limit],
  );
  return rows;
}

/** Meetings that a person has not sent yet and that are not over, the soonest first. */
export async function readDrafts(
  db: Database,
  organizerIds: readonly number[],
  now: number,
): Promise<DraftMeeting[]> {
  const { rows } = await db.query<DraftMeeting>(
    `select event.id, next.title, next.starts_at as start, next.ends_at as "end",
            next.all_day as "allDay", (event.draft->>'holds')::boolean as holds,
            jsonb_array_length(event.draft->'invited') as "toAsk"
     from event
     join lateral (select * from effective_occurrence
                   where event_id = event.id and ends_at > $2
                   order by starts_at limit 1) next on true
     where event.organizer_id = any($1::int[]) and event.draft is not null and event.status = 'confirmed'
     order by next.starts_at, event.id limit ${MOST_DRAFTS}`,
    [organizerIds, new Date(now)],
  );
  return rows;
}

/** How many meetings with others a person organizes that are not over, and how many wait for answers. */
export async function countOrganized(
  db: Database,
  organizerIds: readonly number[],
  now: number,
): Promise<{ total: number; waiting: number; needing: number }> {
  const { rows } = await db.query<{ total: number; waiting: number; needing: number }>(
    `with organized as (${ORGANIZED})
     select count(*) as total, count(*) filter (where not settled) as waiting,
            count(*) filter (where needing) as needing
     from organized`,
    [organizerIds, new Date(now)],
  );
  return rows[0]!;
}

/**
 * Who has not answered meetings that a person organizes, over all of them: those to come, and those
 * that are over since half a year. Whoever owes the most answers comes first, then whoever has owed
 * them longest. A series is one meeting, with its next date or else its last.
 */
export async function readUnanswered(
  db: Database,
  organizerIds: readonly number[],
  now: number,
): Promise<UnansweredList> {
  const { rows } = await db.query<UnansweredList['people'][number] & { total: number }>(
    `with asked as (
       select participant.person_id, participant.name, participant.email, participant.role,
              coalesce(participant.person_id::text, lower(participant.email)) as who,
              participant.reply, participant.invited_at, participant.nudged_at,
              event.id, date.title, date.starts_at, date.ends_at > $2 as ahead
       from event
       join lateral (select * from effective_occurrence
                     where event_id = event.id and status = 'confirmed'
                       and ends_at > $2::timestamptz - interval '${ANSWERS_COUNT_DAYS} days'
                     order by ends_at > $2 desc, abs(extract(epoch from starts_at - $2)) limit 1) date on true
       join participant on participant.event_id = event.id and participant.role <> 'organizer'
       where event.organizer_id = any($1::int[]) and event.status = 'confirmed' and event.draft is null),
     placed as (
       select *, row_number() over (partition by who, ahead, reply order by starts_at, id) as nth
       from asked)
     select min(person_id) as "personId", min(name) as name, min(email) as email,
            count(*) as asked,
            count(*) filter (where reply = 'needs-action' and not ahead) as never,
            count(*) filter (where reply = 'needs-action' and ahead) as waiting,
            min(invited_at) filter (where reply = 'needs-action' and ahead) as since,
            coalesce(json_agg(json_build_object(
                'id', id, 'title', title, 'start', ${instantJson('starts_at')},
                'role', role, 'nudgedAt', ${instantJson('nudged_at')}) order by nth)
              filter (where reply = 'needs-action' and ahead and nth <= ${MOST_MEETINGS_NAMED}), '[]') as meetings,
            count(*) over () as total
     from placed group by who
     having bool_or(reply = 'needs-action')
     order by count(*) filter (where reply = 'needs-action') desc, since, name, who
     limit ${MOST_UNANSWERED}`,
    [organizerIds, new Date(now)],
  );
  return { people: rows.map(({ total: _, ...one }) => one), total: rows[0]?.total ?? 0 };
}

/** What happened about the answers to a meeting, the latest first, by those who are still asked. */
export async function readHistory(
  db: Database,
  eventId: string,
): Promise<AnswerHistory['entries']> {
  const { rows } = await db.query<AnswerHistory['entries'][number]>(
    `select fact.at, participant.id as "attendeeId", participant.name, fact.kind as what,
            fact.details->>'reply' as reply, fact.occurrence,
            case when fact.details ? 'for'
                 then (select name from subject where id = fact.actor_id) end as by
     from fact
     join participant on participant.event_id = fact.event_id and participant.role <> 'organizer'
     where fact.event_id = $1
       and (fact.kind in ('replied', 'proposed', 'proposal-declined')
              and participant.id = (fact.details->>'attendee')::bigint
            or fact.kind = 'nudged' and fact.details->'attendees' @> to_jsonb(participant.id)
            or fact.kind = 'invited'
              and (fact.details->'to' is null
                   or fact.details->'to' ? coalesce(participant.person_id::text, lower(participant.email))))
     order by fact.at desc, fact.id desc, participant.name limit ${MOST_HISTORY}`,
    [eventId],
  );
  return rows;
}

/**
 * What was last written to somebody about a meeting; null where nothing was.
 * @param key who they are, by `participantKey`
 */
export async function latestMessage(
  db: Database,
  eventId: string,
  key: string,
): Promise<string | null> {
  const { rows } = await db.query<{ message: string }>(
    `select details->>'message' as message from fact
     where event_id = $1 and details->>'message' <> '' and (details->>'tell')::boolean
       and kind <> 'cancelled' and (details->'to' is null or details->'to' ? $2)
     order by at desc, id desc limit 1`,
    [eventId, key],
  );
  return rows[0]?.message ?? null;
}

/**
 * Where the places are that some occurrences hold, by occurrence, and those of a list of resources
 * under null.
 */
export async function spotsOf(
  db: Database,
  occurrenceIds: readonly number[],
  resourceIds: readonly number[],
): Promise<Map<number | null, Spot[]>> {
  const { rows } = await db.query<Spot & { occurrenceId: number | null }>(
    `select held.occurrence_id as "occurrenceId", subject.name, site.name as site, resource.floor
     from (select occurrence_id, resource_id from reservation where occurrence_id = any($1)
           union all
           select null, unnest($2::int[])) held
     join resource on resource.subject_id = held.resource_id
     join subject on subject.id = held.resource_id
     join site on site.id = resource.site_id
     order by subject.name`,
    [occurrenceIds, resourceIds],
  );
  const spots = new Map<number | null, Spot[]>();
  for (const { occurrenceId, ...spot } of rows)
    spots.set(occurrenceId, [...(spots.get(occurrenceId) ?? []), spot]);
  return spots;
}
