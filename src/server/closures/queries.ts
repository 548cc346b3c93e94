import type { Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { Unprojected } from '../access/index.ts';
import type { OutOfUse } from '../../contract/closures.ts';
import type { Database } from '../db/transaction.ts';
import type { ChangeOf } from '../facts/index.ts';

/** A booking that stands in a place while that is to be out of use. */
export interface StandingBooking extends Interval {
  placeId: number;
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
 * What has some places within a window, the earliest first.
 * @returns at most so many, and how many there are
 */
export async function readStanding(
  db: Database,
  placeIds: readonly number[],
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
            claim.subject_id as "placeId", count(*) over ()::int as total
     from claim
     join reservation on reservation.id = claim.reservation_id
     join effective_occurrence occurrence on occurrence.id = claim.occurrence_id
     left join subject holder on holder.id = occurrence.organizer_id
     left join preference on preference.person_id = occurrence.organizer_id
     cross join lateral (
       select count(*)::int as people from attendee where event_id = occurrence.event_id) coming
     where claim.subject_id = any($1) and claim.exclusive and claim.during && tstzrange($2, $3)
     order by occurrence.starts_at, claim.id limit $4`,
    [placeIds, new Date(start), new Date(end), most],
  );
  return {
    bookings: rows.map(({ total: _total, ...row }) => row),
    total: rows[0]?.total ?? 0,
  };
}

/**
 * The places of an organization that are retired, and those that are out of use at an instant or after it,
 * by place and time.
 * @returns at most so many
 */
export async function readOutOfUse(
  db: Database,
  now: number,
  among: readonly number[] | null,
  most: number,
): Promise<OutOfUse[]> {
  const { rows } = await db.query<OutOfUse>(
    `select resource.subject_id as "placeId", subject.name as place, resource.kind, site.name as site,
            site.zone, resource.floor, resource.retired_at as "retiredAt", closure.id as "closureId",
            closure.starts_at as start, closure.ends_at as "end", closure.reason
     from resource
     join subject on subject.id = resource.subject_id
     join site on site.id = resource.site_id
     left join closure on closure.resource_id = resource.subject_id and closure.ends_at > $1
     where (closure.id is not null or resource.retired_at is not null)
       and ($3::int[] is null or resource.subject_id = any($3))
     order by resource.retired_at is not null, closure.starts_at, subject.name limit $2`,
    [new Date(now), most, among],
  );
  return rows;
}

/** The change by which a place went out of use, while it can be taken back, and what it did to meetings. */
export async function readChangeOfClosure(
  db: Database,
  placeId: number,
  closureId: number,
): Promise<{ id: number; meetings: ChangeOf[] } | null> {
  const { rows } = await db.query<{ id: number; meetings: [string, number][] | null }>(
    `select id::int, meetings from revision
     where thing = 'place' and thing_id = $1 and edits @> $2 order by id desc limit 1`,
    [placeId, JSON.stringify([{ path: `closure/${closureId}`, from: null }])],
  );
  const [row] = rows;
  return row
    ? { id: row.id, meetings: (row.meetings ?? []).map(([id, version]) => ({ id, version })) }
    : null;
}

/** Where a booking is that had another place before. */
export interface BookingElsewhere extends Interval {
  eventId: string;
  occurrence: WallTime | null;
  title: Unprojected<string>;
  holder: string;
  /** The names of what it has. */
  places: string[];
}

/** Dates of meetings as they are, the earliest first. */
export async function readDates(
  db: Database,
  dates: readonly { eventId: string; occurrence: WallTime | null }[],
): Promise<BookingElsewhere[]> {
  if (dates.length === 0) return [];
  const { rows } = await db.query<BookingElsewhere>(
    `select occurrence.event_id as "eventId", occurrence.recurrence_at as occurrence,
            occurrence.starts_at as start, occurrence.ends_at as "end", occurrence.title,
            coalesce(holder.name, 'somebody outside') as holder,
            array(select subject.name from reservation
                  join subject on subject.id = reservation.resource_id
                  where reservation.occurrence_id = occurrence.id order by 1) as places
     from unnest($1::uuid[], $2::timestamp[]) as asked (id, at)
     join effective_occurrence occurrence
       on occurrence.event_id = asked.id and occurrence.recurrence_at is not distinct from asked.at
     left join subject holder on holder.id = occurrence.organizer_id
     order by occurrence.starts_at`,
    [dates.map((one) => one.eventId), dates.map((one) => one.occurrence)],
  );
  return rows;
}

/** The places of a site that are in use, by their ids. */
export async function readPlacesAt(
  db: Database,
  siteId: number,
  most: number,
): Promise<{ id: number; name: string }[]> {
  const { rows } = await db.query<{ id: number; name: string }>(
    `select subject.id, subject.name from resource join subject on subject.id = resource.subject_id
     where resource.site_id = $1 and resource.retired_at is null order by subject.id limit $2`,
    [siteId, most],
  );
  return rows;
}
