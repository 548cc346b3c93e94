import type { ReservationState } from '../../core/booking/presence.ts';
import type { Interval } from '../../core/time/interval.ts';
import { sendBehind, type StatementPart } from '../db/parts.ts';
import type { Transaction } from '../db/transaction.ts';

/** Time to be claimed for a reservation, buffers included. */
export interface Placed extends Interval {
  /** The occurrence's own time, half-open, and who has it. */
  own: Interval;
  holderId: number | null;
  occurrenceId: number;
  resourceId: number;
  unit: number;
  state: ReservationState;
}

/** How reservations and their claims change, all at once. */
export interface ReservationChanges {
  made: Placed[];
  /** Kept, at another time or with another unit. */
  moved: (Placed & { id: number; leftAt: number | null; agreesAnew: boolean })[];
  /** Not wanted any more. */
  dropped: number[];
  /** Kept without a claim, since the meeting is cancelled. */
  released: {
    id: number;
    /** Whether what a steward agreed to stays agreed to; not where one takes it away. */
    staysAgreed: boolean;
  }[];
}

/** What is written is the sum of the parts that there are: one with nothing to do costs the database as much. */
const ROW = `occurrence_id bigint, resource_id int, holder_id int, unit int, state text,
  starts_at timestamptz, ends_at timestamptz, own_start timestamptz, own_end timestamptz`;

const at = (instant: number): string => new Date(instant).toISOString();

const rowOf = ({ occurrenceId, resourceId, holderId, unit, state, start, end, own }: Placed) => ({
  occurrence_id: occurrenceId,
  resource_id: resourceId,
  holder_id: holderId,
  unit,
  state,
  starts_at: at(start),
  ends_at: at(end),
  own_start: at(own.start),
  own_end: at(own.end),
});

const droppedPart = (ids: readonly number[]): StatementPart => ({
  text: `dropped as (delete from reservation where id = any($1::bigint[])),
     -- Here and not by cascade, which would come after the constraint has looked.
     dropped_claim as (delete from claim where reservation_id = any($1::bigint[]))`,
  values: [ids],
});

const releasedPart = (released: ReservationChanges['released'], now: number): StatementPart => ({
  text: `released as (
       update reservation
       set state = 'released', since = $2,
           agreed = case when not id = any($3::bigint[]) then null
                         when state = 'requested' then agreed
                         else coalesce(agreed, tstzrange(starts_at, ends_at)) end
       where id = any($1::bigint[])
     ), released_claim as (delete from claim where reservation_id = any($1::bigint[]))`,
  values: [
    released.map(({ id }) => id),
    new Date(now),
    released.flatMap(({ id, staysAgreed }) => (staysAgreed ? id : [])),
  ],
});

const movedPart = (moved: ReservationChanges['moved'], now: number): StatementPart => ({
  text: `moved as (
       select * from jsonb_to_recordset($1)
         as new (id bigint, left_at timestamptz, agrees_anew boolean, ${ROW})
     ), reserved as (
       update reservation
       set unit = moved.unit, state = moved.state, left_at = moved.left_at, warned_at = null,
           used_at = case when moved.state = 'in-use' then used_at end,
           since = case when reservation.state = moved.state then since else $2 end,
           starts_at = moved.own_start, ends_at = moved.own_end,
           -- What was agreed to as it stood is agreed to for that time still.
           agreed = case when moved.agrees_anew then null
                         when reservation.state in ('held', 'in-use') then
                           coalesce(agreed, tstzrange(reservation.starts_at, reservation.ends_at))
                         else agreed end
       from moved
       -- Their ids as well as an array, by which the planner sees that an index is the shorter way.
       where reservation.id = moved.id and reservation.id = any($3::bigint[])
     ), reclaimed as (
       update claim set unit = moved.unit, during = tstzrange(moved.starts_at, moved.ends_at)
       from moved
       where claim.reservation_id = moved.id and claim.reservation_id = any($3::bigint[])
       returning moved.id
     ), claimed_again as (
       insert into claim
         (subject_id, unit, during, occupancy, occurrence_id, exclusive, reservation_id)
       select resource_id, unit, tstzrange(starts_at, ends_at), 'busy', occurrence_id, true, id
       from moved where id not in (select id from reclaimed)
     )`,
  values: [
    JSON.stringify(
      moved.map((one) => ({
        id: one.id,
        left_at: one.leftAt === null ? null : at(one.leftAt),
        agrees_anew: one.agreesAnew,
        ...rowOf(one),
      })),
    ),
    new Date(now),
    moved.map((one) => one.id),
  ],
});

const madePart = (made: readonly Placed[], now: number): StatementPart => ({
  text: `new_reservation as (
       select nextval(pg_get_serial_sequence('reservation', 'id')) as id, new.*
       from jsonb_to_recordset($1) as new (${ROW})
     ), made as (
       insert into reservation
         (id, occurrence_id, event_id, resource_id, unit, state, since, starts_at, ends_at, holder_id)
       overriding system value
       select id, occurrence_id,
              (select event_id from occurrence where occurrence.id = new.occurrence_id),
              resource_id, unit, state, $2, own_start, own_end, holder_id
       from new_reservation new
     ), claimed as (
       insert into claim
         (subject_id, unit, during, occupancy, occurrence_id, exclusive, reservation_id)
       select resource_id, unit, tstzrange(starts_at, ends_at), 'busy', occurrence_id, true, id
       from new_reservation
     )`,
  values: [JSON.stringify(made.map(rowOf)), new Date(now)],
});

/** Writes them in one statement; the constraint refuses what is taken, and with it the transaction. */
export function writeReservations(tx: Transaction, changes: ReservationChanges, now: number): void {
  const { made, moved, dropped, released } = changes;
  sendBehind(tx, [
    ...(dropped.length > 0 ? [droppedPart(dropped)] : []),
    ...(released.length > 0 ? [releasedPart(released, now)] : []),
    ...(moved.length > 0 ? [movedPart(moved, now)] : []),
    ...(made.length > 0 ? [madePart(made, now)] : []),
  ]);
}

/** Says of the reservations of dates that were handed over to a meeting that they are of it now. */
export function followOccurrences(tx: Transaction, eventId: string): void {
  tx.send(
    `update reservation set event_id = $1
     from occurrence
     where occurrence.id = reservation.occurrence_id and occurrence.event_id = $1
       and reservation.event_id <> $1`,
    [eventId],
  );
}

/** Says of the bookings to come of meetings whose they are now. @param from an instant, epoch milliseconds */
export function followOrganizers(tx: Transaction, eventIds: readonly string[], from: number): void {
  tx.send(
    `update reservation set holder_id = event.organizer_id
     from event
     where event.id = any($1::uuid[]) and reservation.event_id = event.id and reservation.starts_at >= $2
       and reservation.holder_id is distinct from event.organizer_id`,
    [eventIds, new Date(from)],
  );
}
