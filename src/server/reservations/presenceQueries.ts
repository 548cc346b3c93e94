import { claimedTime } from '../../core/booking/booking.ts';
import type { Presence } from '../../core/booking/presence.ts';
import { freeUnit } from '../../core/booking/units.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { readClaims, type BookableResource } from './queries.ts';

/** What one date of a meeting has of one place. */
export interface PlacedReservation extends Presence {
  id: number;
  unit: number;
  resourceId: number;
  /** The occurrence's own time. */
  start: number;
  end: number;
}

/** @returns null where that date has nothing of that place */
export async function readReservation(
  db: Database,
  eventId: string,
  at: WallTime | null,
  resourceId: number,
): Promise<PlacedReservation | null> {
  const { rows } = await db.query<PlacedReservation>(
    `select reservation.id, unit, state, resource_id as "resourceId", used_at as "usedAt",
            left_at as "leftAt", occurrence.starts_at as start, occurrence.ends_at as "end"
     from occurrence join reservation on reservation.occurrence_id = occurrence.id
     where occurrence.event_id = $1 and recurrence_at is not distinct from $2 and resource_id = $3`,
    [eventId, at, resourceId],
  );
  return rows[0] ?? null;
}

/**
 * Keeps that somebody is there; whoever had left has the rest of their time again.
 * @returns false where somebody else has that rest by now; nothing is changed then
 */
export async function checkIn(
  tx: Transaction,
  reservation: PlacedReservation,
  resource: BookableResource,
  now: number,
): Promise<boolean> {
  const { id, leftAt } = reservation;
  let { unit } = reservation;
  if (leftAt !== null) {
    const span = claimedTime(reservation, resource);
    const claims = await readClaims(tx, [resource.id], span);
    const others = claims.filter((claim) => claim.reservationId !== id);
    const free = freeUnit(others, span, resource.units, unit);
    if (free === null) return false;
    unit = free;
  }
  tx.send(
    `with claimed as (
       update claim set unit = $2, during = tstzrange(lower(during), $3)
       where reservation_id = $1 and $4
     )
     update reservation
     set state = 'in-use', used_at = coalesce(used_at, $5), left_at = null, unit = $2,
         since = case when state = 'in-use' then since else $5 end
     where id = $1`,
    [id, unit, new Date(claimedTime(reservation, resource).end), leftAt !== null, new Date(now)],
  );
  return true;
}

/** Keeps that somebody left, and gives what is left of their time to others. */
export function checkOut(
  tx: Transaction,
  reservation: PlacedReservation & Interval,
  resource: BookableResource,
  now: number,
): void {
  // Whoever leaves before it begins has had a minute of it.
  const leftAt = Math.max(now, reservation.start + MINUTE);
  const kept = claimedTime({ ...reservation, end: leftAt }, resource);
  tx.send(
    `with shortened as (
       update claim set during = tstzrange(lower(during), least(upper(during), $3))
       where reservation_id = $1
     )
     update reservation set left_at = $2 where id = $1`,
    [reservation.id, new Date(leftAt), new Date(kept.end)],
  );
}

/**
 * Keeps that a steward agrees to what an event asked for of a place, for every date to come.
 * @returns how many dates that were
 */
export async function agree(
  tx: Transaction,
  eventId: string,
  resourceId: number,
  now: number,
): Promise<number> {
  const { rowCount } = await tx.query(
    `update reservation set state = 'held', since = $3, agreed = null
     from occurrence
     where reservation.occurrence_id = occurrence.id and occurrence.event_id = $1
       and reservation.resource_id = $2 and reservation.state = 'requested'
       and occurrence.starts_at > $3`,
    [eventId, resourceId, new Date(now)],
  );
  return rowCount ?? 0;
}

/** Keeps that holders were warned. @returns the reservations that nobody else has warned of meanwhile */
export async function markWarned(
  tx: Transaction,
  ids: readonly number[],
  now: number,
): Promise<Set<number>> {
  const { rows } = await tx.query<{ id: number }>(
    `update reservation set warned_at = $2
     where id in (select id from reservation
                  where id = any($1::bigint[]) and state = 'held' and warned_at is null
                  order by id for update skip locked)
     returning id`,
    [ids, new Date(now)],
  );
  return new Set(rows.map((row) => row.id));
}
