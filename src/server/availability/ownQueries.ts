import type { MovableMeeting } from '../../contract/availability.ts';
import type { PastMeeting } from '../../core/planner/wishes.ts';
import type { UnitClaim } from '../../core/booking/units.ts';
import type { Database } from '../db/transaction.ts';

/** A meeting that could move, and the claims on resources that it holds. */
export type MovableRow = Omit<MovableMeeting, 'frees'> & { held: (UnitClaim & { id: number })[] };

/** Timed meetings of an organizer that start in a window, as far as they take somebody's time. */
export async function readMovable(
  db: Database,
  organizerId: number,
  from: number,
  to: number,
  limit: number,
): Promise<MovableRow[]> {
  const { rows } = await db.query<MovableRow>(
    `select occurrence.event_id as "eventId", occurrence.recurrence_at as "recurrenceId",
            occurrence.version, occurrence.title, occurrence.zone,
            occurrence.starts_at as start, occurrence.ends_at as "end",
            (select json_agg(json_build_object('id', person_id, 'role',
                      case when role = 'optional' then 'optional' else 'required' end)
                      order by attendee_id)
             from effective_reply reply
             where reply.occurrence_id = occurrence.id and person_id is not null
               and reply.reply <> 'declined') as people,
            array(select resource_id from reservation
                  where reservation.occurrence_id = occurrence.id order by resource_id)
              as resources,
            (select coalesce(json_agg(json_build_object(
                      'id', held.subject_id, 'unit', held.unit,
                      'start', extract(epoch from lower(held.during))::float8 * 1000,
                      'end', extract(epoch from upper(held.during))::float8 * 1000)), '[]')
             from claim held
             where held.occurrence_id = occurrence.id and held.exclusive) as held,
            (select count(*) from effective_reply reply
             where reply.occurrence_id = occurrence.id and person_id is null
               and reply.reply <> 'declined') as outsiders
     from claim
     join effective_occurrence occurrence on occurrence.id = claim.occurrence_id
     where claim.subject_id = $1 and claim.during && tstzrange($2, $3)
       and claim.occupancy in ('busy', 'tentative') and occurrence.organizer_id = $1
       and not occurrence.all_day and occurrence.starts_at >= $2
     order by occurrence.starts_at, occurrence.event_id limit $4`,
    [organizerId, new Date(from), new Date(to), limit],
  );
  return rows.map((row) => ({ ...row, outsiders: Number(row.outsiders) }));
}

/**
 * Meetings that somebody took part in together with at least some number of others.
 * @returns the most recent first, with those of the others who took part and themselves
 */
export async function readShared(
  db: Database,
  personId: number,
  others: readonly number[],
  { least, from, to }: { least: number; from: number; to: number },
  limit: number,
): Promise<PastMeeting[]> {
  const { rows } = await db.query<PastMeeting>(
    `select occurrence.starts_at as start, occurrence.ends_at as "end",
            array_agg(attendee.person_id order by attendee.person_id) || $1::int as people
     from claim
     join effective_occurrence occurrence
       on occurrence.id = claim.occurrence_id and not occurrence.all_day
     join effective_reply attendee
       on attendee.occurrence_id = claim.occurrence_id and attendee.reply <> 'declined'
       and attendee.person_id = any($2)
     where claim.subject_id = $1 and claim.during && tstzrange($3, $4)
       and occurrence.ends_at <= $4 and claim.occupancy <> 'free'
       and exists (select 1 from event where event.id = occurrence.event_id
                     and (event.invitees_list or event.organizer_id = $1))
     group by occurrence.id, occurrence.starts_at, occurrence.ends_at
     having count(*) >= $5
     order by occurrence.starts_at desc limit $6`,
    [personId, others, new Date(from), new Date(to), least, limit],
  );
  return rows;
}
