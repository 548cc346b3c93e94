/**
 * What becomes of reservations, and of what keeps a place out of use, when the place itself is changed.
 */
import type { Transaction } from '../db/transaction.ts';

/** Gives reservations other units; the units above are gone for what is out of use as well. */
export function moveUnits(
  tx: Transaction,
  places: readonly { id: number; units: number }[],
  moved: readonly { id: number; unit: number }[],
): void {
  if (places.length === 0) return;
  tx.send(
    `with moved as materialized (
       select * from jsonb_to_recordset($1) as new (id bigint, unit int)
     ), reserved as (
       update reservation set unit = moved.unit from moved where reservation.id = moved.id
     ), gone as (
       delete from claim using jsonb_to_recordset($2) as place (id int, units int)
       where subject_id = place.id and closure_id is not null and unit > place.units
     )
     update claim set unit = moved.unit from moved
     where claim.reservation_id = moved.id`,
    [JSON.stringify(moved), JSON.stringify(places)],
  );
}

/** Claims the new units of places, from one to another, for the times at which these are out of use. */
export function closeNewUnits(
  tx: Transaction,
  places: readonly { id: number; first: number; last: number }[],
  now: number,
): void {
  if (places.length === 0) return;
  tx.send(
    `insert into claim (subject_id, unit, during, occupancy, exclusive, closure_id)
     select place.id, unit, tstzrange(starts_at, ends_at), 'busy', true, closure.id
     from jsonb_to_recordset($1) as place (id int, first int, last int)
     join closure on closure.resource_id = place.id and closure.ends_at > $2
     cross join generate_series(place.first, place.last) as unit`,
    [JSON.stringify(places), new Date(now)],
  );
}

/** Keeps as much free around the bookings to come of places as is given. Minutes. */
export function widenClaims(
  tx: Transaction,
  places: readonly { id: number; prepareMinutes: number; clearMinutes: number }[],
  now: number,
): void {
  if (places.length === 0) return;
  tx.send(
    `update claim
     set during = tstzrange(occurrence.starts_at - make_interval(mins => place."prepareMinutes"),
                            coalesce(reservation.left_at, occurrence.ends_at)
                              + make_interval(mins => place."clearMinutes"))
     from jsonb_to_recordset($1) as place (id int, "prepareMinutes" int, "clearMinutes" int),
          reservation
     join occurrence on occurrence.id = reservation.occurrence_id
     where reservation.id = claim.reservation_id and claim.subject_id = place.id
       and claim.during && tstzrange($2, null)`,
    [JSON.stringify(places), new Date(now)],
  );
}
