import type { Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { Unprojected } from '../access/index.ts';
import type { Database } from '../db/transaction.ts';

/** A booking that stands in a place while that is to be out of use. */
export interface StandingBooking extends Interval {
  eventId: string;
  occurrence: WallTime | null;
  title: Unprojected<string>;
  holder: string;
  people: number;
  /** Whether those who are asked see who else is. */
  listsAll: boolean;
  teams: number[];
  shiftMinutes: number;
}

/**
 * What has a place within a window, the earliest first.
 * @returns at most so many, and how many there are
 */
export async function readStanding(
  db: Database,
  placeId: number,
  { start, end }: Interval,
  most: number,
): Promise<{ bookings: StandingBooking[]; total: number }> {
  const { rows } = await db.query<StandingBooking & { total: number }>(
    `select occurrence.event_id as "eventId", occurrence.recurrence_at as occurrence,
            occurrence.starts_at as start, occurrence.ends_at as "end", occurrence.title,
            coalesce(holder.name, 'somebody outside') as holder, coming.people,
            (select invitees_list from event where event.id = occurrence.event_id) as "listsAll",
            array(select team_id from team_member
                  where person_id = occurrence.organizer_id) as teams,
            case when coming.people = 1 then coalesce(preference.shift_minutes, 0) else 0 end
              as "shiftMinutes",
            count(*) over ()::int as total
     from claim
     join reservation on reservation.id = claim.reservation_id
     join effective_occurrence occurrence on occurrence.id = claim.occurrence_id
     left join subject holder on holder.id = occurrence.organizer_id
     left join preference on preference.person_id = occurrence.organizer_id
     cross join lateral (
       select count(*)::int as people from attendee where event_id = occurrence.event_id) coming
     where claim.subject_id = $1 and claim.exclusive and claim.during && tstzrange($2, $3)
     order by occurrence.starts_at, claim.id limit $4`,
    [placeId, new Date(start), new Date(end), most],
  );
  return {
    bookings: rows.map(({ total: _total, ...row }) => row),
    total: rows[0]?.total ?? 0,
  };
}
