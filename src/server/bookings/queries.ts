import { type KeptRules } from '../../core/booking/rules.ts';
import type { Presence } from '../../core/booking/presence.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';

import type { Unprojected } from '../access/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { MOST_MINE } from './limits.ts';

/** A reservation of a place that asks to be checked in to. */
interface Expected extends Presence, Interval {
  eventId: string;
  occurrence: WallTime | null;
  placeId: number;
  place: string;
  graceMinutes: number;
  /** Since when it is what it is; epoch milliseconds. */
  since: number;
}

const EXPECTED_COLUMNS = `
  occurrence.event_id as "eventId", occurrence.recurrence_at as occurrence,
  resource.subject_id as "placeId", place.name as place,
  (resource.rules->>'graceMinutes')::int as "graceMinutes", reservation.state,
  reservation.used_at as "usedAt", reservation.left_at as "leftAt", reservation.since,
  occurrence.starts_at as start, occurrence.ends_at as "end"`;

/**
 * What somebody has within a window of places that ask to be checked in to: what stands in their
 * calendar, whoever organizes it.
 */
export async function readExpectedOf(
  db: Database,
  personId: number,
  { start, end }: Interval,
): Promise<(Expected & { site: string; zone: string; title: string })[]> {
  const { rows } = await db.query<Expected & { site: string; zone: string; title: string }>(
    `select ${EXPECTED_COLUMNS}, site.name as site, site.zone, occurrence.title
     from claim mine
     join effective_occurrence occurrence on occurrence.id = mine.occurrence_id
     join reservation on reservation.occurrence_id = occurrence.id
     join resource on resource.subject_id = reservation.resource_id
     join subject place on place.id = resource.subject_id
     join site on site.id = resource.site_id
     where mine.subject_id = $1 and mine.during && tstzrange($2, $3)
       and reservation.state in ('held', 'in-use') and resource.rules ? 'graceMinutes'
     order by occurrence.starts_at, place.name limit ${MOST_MINE}`,
    [personId, new Date(start), new Date(end)],
  );
  return rows;
}

/** Whether somebody has a part in a meeting, themselves or by somebody they act for. */
export async function isAttendee(
  db: Database,
  eventId: string,
  principals: readonly number[],
): Promise<boolean> {
  const { rowCount } = await db.query(
    'select 1 from attendee where event_id = $1 and person_id = any($2) limit 1',
    [eventId, principals],
  );
  return rowCount === 1;
}

/** A booking to which nobody has come yet. */
export interface Awaited extends Expected {
  id: number;
  warnedAt: number | null;
  /** Whose it is; null where nobody of this installation organizes it. */
  holderId: number | null;
  title: string;
}

/** Bookings that have begun within a window and to which nobody has come, by when they began. */
export async function readAwaited(
  db: Database,
  { start, end }: Interval,
  most: number,
): Promise<Awaited[]> {
  const { rows } = await db.query<Awaited>(
    `select ${EXPECTED_COLUMNS}, reservation.id, reservation.warned_at as "warnedAt",
            occurrence.organizer_id as "holderId", occurrence.title
     from resource
     join subject place on place.id = resource.subject_id
     join claim on claim.subject_id = resource.subject_id and claim.exclusive
       and claim.during && tstzrange($1, $2)
     join reservation on reservation.id = claim.reservation_id
     join effective_occurrence occurrence on occurrence.id = reservation.occurrence_id
     where resource.rules ? 'graceMinutes' and reservation.state = 'held'
       and occurrence.starts_at <= $2 and occurrence.ends_at > $2
     order by occurrence.starts_at, reservation.id limit $3`,
    [new Date(start), new Date(end), most],
  );
  return rows;
}

/** Keeps that nobody came to a booking, when it is long given to others. */
export function insertNoShow(
  tx: Transaction,
  { placeId, holderId, start, end }: Awaited,
  now: number,
): void {
  tx.send(
    `insert into no_show (resource_id, person_id, starts_at, ends_at, noted_at)
     values ($1, $2, $3, $4, $5)`,
    [placeId, holderId, new Date(start), new Date(end), new Date(now)],
  );
}

/** One meeting's wish for one place, to which a steward has yet to agree. */
export interface Requested extends Interval {
  eventId: string;
  placeId: number;
  place: string;
  site: string;
  zone: string;
  rules: KeptRules;
  holder: string;
  version: number;
  title: Unprojected<string>;
  dates: number;
  askedAt: number;
}

/**
 * What waits for a steward, what was asked for first, first.
 * @returns at most so many, and how many there are
 */
export async function readRequests(
  db: Database,
  now: number,
  among: readonly number[] | null,
  most: number,
): Promise<{ requests: Requested[]; total: number }> {
  const { rows } = await db.query<Requested & { total: number }>(
    `with waiting as materialized (
       select occurrence.event_id, reservation.resource_id, count(*) as dates,
              min(reservation.since) as since,
              (array_agg(occurrence.id order by occurrence.starts_at))[1] as first_id
       from reservation join occurrence on occurrence.id = reservation.occurrence_id
       where reservation.state = 'requested' and occurrence.starts_at > $1
         and ($2::int[] is null or reservation.resource_id = any($2))
       group by occurrence.event_id, reservation.resource_id
     )
     select waiting.event_id as "eventId", waiting.resource_id as "placeId", place.name as place,
            site.name as site, site.zone, resource.rules, holder.name as holder,
            occurrence.version, occurrence.title,
            waiting.dates::int as dates, waiting.since as "askedAt",
            occurrence.starts_at as start, occurrence.ends_at as "end",
            count(*) over ()::int as total
     from waiting
     join effective_occurrence occurrence on occurrence.id = waiting.first_id
     join subject holder on holder.id = occurrence.organizer_id
     join resource on resource.subject_id = waiting.resource_id
     join subject place on place.id = resource.subject_id
     join site on site.id = resource.site_id
     order by waiting.since, waiting.event_id, waiting.resource_id limit $3`,
    [new Date(now), among, most],
  );
  return {
    requests: rows.map(({ total: _total, ...row }) => row),
    total: rows[0]?.total ?? 0,
  };
}

/** A date for which a request is over without an answer. */
export interface Expired {
  eventId: string;
  placeId: number;
  place: string;
  occurrence: WallTime | null;
  start: number;
  since: number;
}

/** Requests that nobody decided: asked for before an instant, or begun by now. */
export async function readExpired(
  db: Database,
  askedBefore: number,
  now: number,
  most: number,
): Promise<Expired[]> {
  const { rows } = await db.query<Expired>(
    `select occurrence.event_id as "eventId", reservation.resource_id as "placeId",
            place.name as place, occurrence.recurrence_at as occurrence,
            occurrence.starts_at as start, reservation.since
     from reservation
     join occurrence on occurrence.id = reservation.occurrence_id
     join subject place on place.id = reservation.resource_id
     where reservation.state = 'requested'
       and (reservation.since <= $1 or occurrence.starts_at <= $2)
     order by reservation.since, reservation.id limit $3`,
    [new Date(askedBefore), new Date(now), most],
  );
  return rows;
}
