import type { MeetingReplies, Reply, WaitingInvitation } from '../../contract/invitations.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/**
 * Invitations without my answer whose meeting is not over, by start: the next occurrence of each
 * series, and single occurrences that were moved and ask again.
 */
export async function readWaiting(
  db: Database,
  personId: number,
  now: number,
): Promise<WaitingInvitation[]> {
  const { rows } = await db.query<WaitingInvitation>(
    `select event.id as "eventId", asked.occurrence, coalesce(own.title, event.title) as title,
            subject.name as organizer, next.starts_at as start, next.ends_at as "end",
            event.all_day as "allDay", asked.invited_at as "invitedAt", asked.role,
            coalesce((select array_agg(distinct other_event.title)
                      from claim
                      join occurrence other on other.id = claim.occurrence_id
                      join event other_event on other_event.id = other.event_id
                      where claim.subject_id = $1 and other.event_id <> event.id
                        and claim.occupancy <> 'free'
                        and claim.during && tstzrange(next.starts_at, next.ends_at)), '{}') as conflicts
     from (select event_id, role, invited_at, null::timestamp as occurrence
           from attendee where person_id = $1 and reply = 'needs-action'
           union all
           select attendee.event_id, attendee.role, answer.asked_at, answer.recurrence_at
           from attendee join occurrence_reply answer on answer.attendee_id = attendee.id
           where attendee.person_id = $1 and attendee.reply <> 'needs-action'
             and answer.reply = 'needs-action') asked
     join event on event.id = asked.event_id and event.status = 'confirmed'
     join subject on subject.id = event.organizer_id
     join lateral (select recurrence_at, starts_at, ends_at from occurrence
                   where event_id = event.id and ends_at > $2
                     and (asked.occurrence is null or recurrence_at = asked.occurrence)
                   order by starts_at limit 1) next on true
     left join occurrence_override own
       on own.event_id = event.id and own.recurrence_at = asked.occurrence
     order by next.starts_at`,
    [personId, new Date(now)],
  );
  return rows;
}

/** Meetings with other people that a person organises and that are not over, by start. */
export async function readOrganised(
  db: Database,
  personId: number,
  now: number,
): Promise<MeetingReplies[]> {
  const { rows } = await db.query<MeetingReplies>(
    `select event.id as "eventId", event.title, next.starts_at as start, next.ends_at as "end",
            event.all_day as "allDay", event.rule is not null as recurring,
            (select json_agg(json_build_object(
                'name', attendee.name, 'email', attendee.email, 'role', attendee.role,
                'reply', attendee.reply, 'note', attendee.note,
                'invitedAt', round(extract(epoch from attendee.invited_at) * 1000),
                'repliedAt', round(extract(epoch from attendee.replied_at) * 1000))
              order by attendee.role = 'required' desc, attendee.name)
             from attendee
             where attendee.event_id = event.id and attendee.role <> 'organizer') as replies
     from event
     join lateral (select starts_at, ends_at from occurrence
                   where event_id = event.id and ends_at > $2
                   order by starts_at limit 1) next on true
     where event.organizer_id = $1 and event.status = 'confirmed'
       and exists (select 1 from attendee
                   where attendee.event_id = event.id and attendee.role <> 'organizer')
     order by next.starts_at`,
    [personId, new Date(now)],
  );
  return rows;
}

interface KeptAnswer {
  eventId: string;
  email: string;
  reply: Reply;
  note: string;
  now: number;
}

/**
 * Keeps an answer to all of an event; occurrences that asked again are answered with it.
 * @returns false when the person is not invited
 */
export async function updateReply(tx: Transaction, answer: KeptAnswer): Promise<boolean> {
  const { rows } = await tx.query<{ id: number }>(
    `update attendee set reply = $3, note = $4, replied_at = $5
     where event_id = $1 and lower(email) = lower($2) and role <> 'organizer' returning id`,
    [answer.eventId, answer.email, answer.reply, answer.note, new Date(answer.now)],
  );
  await tx.query(
    `delete from occurrence_reply where attendee_id = any($1) and reply = 'needs-action'`,
    [rows.map((row) => row.id)],
  );
  return rows.length === 1;
}

/** Keeps an answer to one occurrence. @returns false when the person is not invited */
export async function updateOccurrenceReply(
  tx: Transaction,
  answer: KeptAnswer & { occurrence: WallTime },
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `insert into occurrence_reply (event_id, recurrence_at, attendee_id, reply, note, asked_at, replied_at)
     select event_id, $6, id, $3, $4, invited_at, $5 from attendee
     where event_id = $1 and lower(email) = lower($2) and role <> 'organizer'
     on conflict (event_id, recurrence_at, attendee_id)
       do update set reply = excluded.reply, note = excluded.note, replied_at = excluded.replied_at`,
    [
      answer.eventId,
      answer.email,
      answer.reply,
      answer.note,
      new Date(answer.now),
      answer.occurrence,
    ],
  );
  return rowCount === 1;
}

/** A person's own answer to one occurrence; null where the answer to the series holds. */
export async function readOccurrenceReply(
  db: Database,
  eventId: string,
  personId: number,
  occurrence: WallTime,
): Promise<{ reply: Reply; note: string } | null> {
  const { rows } = await db.query<{ reply: Reply; note: string }>(
    `select answer.reply, answer.note
     from occurrence_reply answer join attendee on attendee.id = answer.attendee_id
     where answer.event_id = $1 and attendee.person_id = $2 and answer.recurrence_at = $3`,
    [eventId, personId, occurrence],
  );
  return rows[0] ?? null;
}

export async function findByUid(
  db: Database,
  uid: string,
): Promise<{ id: string; sequence: number } | null> {
  const { rows } = await db.query<{ id: string; sequence: number }>(
    'select id, sequence from event where uid = $1',
    [uid],
  );
  return rows[0] ?? null;
}
