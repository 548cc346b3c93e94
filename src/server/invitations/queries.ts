import type { MeetingReplies, Reply, WaitingInvitation } from '../../contract/invitations.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** Invitations without my answer whose meeting is not over: the next occurrence of each, by start. */
export async function readWaiting(
  db: Database,
  personId: number,
  now: number,
): Promise<WaitingInvitation[]> {
  const { rows } = await db.query<WaitingInvitation>(
    `select event.id as "eventId", event.title, subject.name as organizer,
            next.starts_at as start, next.ends_at as "end", event.all_day as "allDay",
            attendee.invited_at as "invitedAt", attendee.role,
            coalesce((select array_agg(distinct other_event.title)
                      from claim
                      join occurrence other on other.id = claim.occurrence_id
                      join event other_event on other_event.id = other.event_id
                      where claim.subject_id = $1 and other.event_id <> event.id
                        and claim.occupancy <> 'free'
                        and claim.during && tstzrange(next.starts_at, next.ends_at)), '{}') as conflicts
     from attendee
     join event on event.id = attendee.event_id and event.status = 'confirmed'
     join subject on subject.id = event.organizer_id
     join lateral (select starts_at, ends_at from occurrence
                   where event_id = event.id and ends_at > $2
                   order by starts_at limit 1) next on true
     where attendee.person_id = $1 and attendee.reply = 'needs-action'
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

/** Keeps an answer. @returns false when the person is not invited */
export async function updateReply(
  tx: Transaction,
  answer: { eventId: string; email: string; reply: Reply; note: string; now: number },
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `update attendee set reply = $3, note = $4, replied_at = $5
     where event_id = $1 and lower(email) = lower($2) and role <> 'organizer'`,
    [answer.eventId, answer.email, answer.reply, answer.note, new Date(answer.now)],
  );
  return rowCount === 1;
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
