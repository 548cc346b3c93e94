import type { Interval } from '../../core/time/interval.ts';
import type { Presence, ReservationState } from '../../core/booking/presence.ts';
import { allRules, type KeptRules, type PlaceRules } from '../../core/booking/rules.ts';
import type { UnitClaim } from '../../core/booking/units.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** What a booking needs to know of a resource, held against other bookings. */
export interface BookableResource {
  id: number;
  name: string;
  kind: string;
  site: string;
  seats: number;
  units: number;
  prepareMinutes: number;
  clearMinutes: number;
  /** The clock of its site. */
  zone: string;
  rules: PlaceRules;
  /** Whether nobody books it any more. */
  isRetired: boolean;
}

const RESOURCES_SQL = `
  select subject.id, subject.name, resource.kind, site.name as site, capacity as seats, units,
         prepare_minutes as "prepareMinutes", clear_minutes as "clearMinutes", site.zone, rules || assignment(resource) as rules,
         retired_at is not null as "isRetired"
  from resource
  join subject on subject.id = resource.subject_id
  join site on site.id = resource.site_id
  where subject.id = any($1)`;

/**
 * Holds resources against other bookings until the transaction ends. Without it two bookings that
 * insert at the same moment would wait for each other inside the constraint and one be a deadlock.
 * Always in the order of their ids, so that bookings of several never wait in a circle.
 */
export async function lockResources(
  tx: Transaction,
  ids: readonly number[],
): Promise<BookableResource[]> {
  const { rows } = await tx.query<BookableRow>(
    `${RESOURCES_SQL} order by subject.id for no key update of resource`,
    [ids],
  );
  return rows.map(withAllRules);
}

type BookableRow = Omit<BookableResource, 'rules'> & { rules: KeptRules };
const withAllRules = (row: BookableRow): BookableResource => ({
  ...row,
  rules: allRules(row.rules),
});

/** The same, only read, by id. */
export async function readResources(
  db: Database,
  ids: readonly number[],
): Promise<Map<number, BookableResource>> {
  if (ids.length === 0) return new Map();
  const { rows } = await db.query<BookableRow>(RESOURCES_SQL, [ids]);
  return new Map(rows.map((row) => [row.id, withAllRules(row)]));
}

/** A reservation as it stands, with the time its claim takes, buffers included. */
export interface HeldReservation extends Presence {
  id: number;
  occurrenceId: number;
  resourceId: number;
  unit: number;
  /** Null where nothing is claimed for it. */
  start: number | null;
  end: number | null;
  /** For which time a steward agreed to it, where that is another than its own. */
  agreed: Interval | null;
}

/** The reservations of an event's occurrences. */
export async function readReservations(db: Database, eventId: string): Promise<HeldReservation[]> {
  type Row = Omit<HeldReservation, 'agreed'> & { agreedStart: number | null; agreedEnd: number };
  const { rows } = await db.query<Row>(
    `select reservation.id, reservation.occurrence_id as "occurrenceId",
            reservation.resource_id as "resourceId", reservation.unit, reservation.state,
            used_at as "usedAt", left_at as "leftAt",
            lower(claim.during) as start, upper(claim.during) as "end",
            lower(reservation.agreed) as "agreedStart", upper(reservation.agreed) as "agreedEnd"
     from occurrence
     join reservation on reservation.occurrence_id = occurrence.id
     left join claim on claim.reservation_id = reservation.id
     where occurrence.event_id = $1`,
    [eventId],
  );
  return rows.map(({ agreedStart: start, agreedEnd: end, ...row }) => ({
    ...row,
    agreed: start === null ? null : { start, end },
  }));
}

/** The resources of an event to which a steward has yet to agree. */
export async function readRequested(db: Database, eventId: string): Promise<number[]> {
  const { rows } = await db.query<{ id: number }>(
    `select distinct reservation.resource_id as id
     from occurrence join reservation on reservation.occurrence_id = occurrence.id
     where occurrence.event_id = $1 and reservation.state = 'requested'`,
    [eventId],
  );
  return rows.map((row) => row.id);
}

/** What takes a unit of a resource: a reservation, or null where it is out of use. */
export type ResourceClaim = UnitClaim & { resourceId: number; reservationId: number | null };

/** Exclusive claims of resources that overlap a window, buffers included. */
export async function readClaims(
  db: Database,
  ids: readonly number[],
  { start, end }: Interval,
): Promise<ResourceClaim[]> {
  const { rows } = await db.query<ResourceClaim>(
    `select subject_id as "resourceId", unit, lower(during) as start, upper(during) as "end",
            reservation_id as "reservationId"
     from claim
     where subject_id = any($1) and during && tstzrange($2, $3) and exclusive
     order by subject_id, lower(during)`,
    [ids, new Date(start), new Date(end)],
  );
  return rows;
}

/**
 * Exclusive claims that overlap some times of places, each with margins around it: what lies between those
 * times is not read, however far apart they are.
 */
export async function readClaimsNear(
  db: Database,
  times: readonly (Interval & { placeId: number })[],
  marginMs: number,
): Promise<ResourceClaim[]> {
  const { rows } = await db.query<ResourceClaim>(
    `select distinct subject_id as "resourceId", unit, lower(during) as start, upper(during) as "end",
            reservation_id as "reservationId"
     from unnest($1::int[], $2::timestamptz[], $3::timestamptz[]) as asked (place_id, starts_at, ends_at)
     join claim on subject_id = place_id and exclusive and during && tstzrange(starts_at, ends_at)`,
    [
      times.map((one) => one.placeId),
      times.map((one) => new Date(one.start - marginMs)),
      times.map((one) => new Date(one.end + marginMs)),
    ],
  );
  return rows;
}

/** Time to be claimed for a reservation, buffers included. */
export interface Placed extends Interval {
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
  released: number[];
  /** Whether what a steward agreed to of those stays agreed to; not where one takes it away. */
  staysAgreed: boolean;
}

/** The bookings that a meeting has, the first of them, as a change of several names them. */
export async function readBookingsOf(
  db: Database,
  eventId: string,
  most: number,
): Promise<{ id: string; start: number }[]> {
  const { rows } = await db.query<{ id: string; start: number }>(
    `select reservation.id::text, reservation.starts_at as start
     from reservation join occurrence on occurrence.id = reservation.occurrence_id
     where occurrence.event_id = $1 order by reservation.id limit $2`,
    [eventId, most],
  );
  return rows;
}

/** Writes them in one statement; the constraint refuses what is taken, and with it the transaction. */
export function writeReservations(tx: Transaction, changes: ReservationChanges, now: number): void {
  const { made, moved, dropped, released, staysAgreed } = changes;
  if (made.length + moved.length + dropped.length + released.length === 0) return;
  const row = ({ occurrenceId, resourceId, unit, state, start, end }: Placed) => ({
    occurrence_id: occurrenceId,
    resource_id: resourceId,
    unit,
    state,
    starts_at: new Date(start).toISOString(),
    ends_at: new Date(end).toISOString(),
  });
  const columns =
    'occurrence_id bigint, resource_id int, unit int, state text, starts_at timestamptz, ends_at timestamptz';
  tx.send(
    // Their ids as well as an array, by which the planner sees that an index is the shorter way.
    `with dropped as (
       delete from reservation where id = any($3::bigint[])
     ), released as (
       update reservation
       set state = 'released', since = $5,
           agreed = case when not $7 then null
                         when state = 'requested' then agreed
                         else coalesce(agreed, tstzrange(starts_at, ends_at)) end
       where id = any($4::bigint[])
     ), unclaimed as (
       -- Here and not by cascade, which would come after the constraint has looked.
       delete from claim where reservation_id = any($3::bigint[] || $4::bigint[])
     ), moved as (
       select * from jsonb_to_recordset($2)
         as new (id bigint, left_at timestamptz, agrees_anew boolean, ${columns})
     ), reserved as (
       update reservation
       set unit = moved.unit, state = moved.state, left_at = moved.left_at, warned_at = null,
           used_at = case when moved.state = 'in-use' then used_at end,
           since = case when reservation.state = moved.state then since else $5 end,
           starts_at = occurrence.starts_at, ends_at = occurrence.ends_at,
           -- What was agreed to as it stood is agreed to for that time still.
           agreed = case when moved.agrees_anew then null
                         when reservation.state in ('held', 'in-use') then
                           coalesce(agreed, tstzrange(reservation.starts_at, reservation.ends_at))
                         else agreed end
       from moved join occurrence on occurrence.id = moved.occurrence_id
       where reservation.id = moved.id and reservation.id = any($6::bigint[])
     ), reclaimed as (
       update claim set unit = moved.unit, during = tstzrange(moved.starts_at, moved.ends_at)
       from moved
       where claim.reservation_id = moved.id and claim.reservation_id = any($6::bigint[])
       returning moved.id
     ), new as (
       select * from jsonb_to_recordset($1) as new (${columns})
     ), made as (
       insert into reservation
         (occurrence_id, resource_id, unit, state, since, starts_at, ends_at, holder_id)
       select occurrence_id, resource_id, unit, state, $5, occurrence.starts_at, occurrence.ends_at,
              event.organizer_id
       from new
       join occurrence on occurrence.id = new.occurrence_id
       join event on event.id = occurrence.event_id
       returning id, occurrence_id, resource_id
     )
     insert into claim (subject_id, unit, during, occupancy, occurrence_id, exclusive, reservation_id)
     select new.resource_id, new.unit, tstzrange(starts_at, ends_at), 'busy', new.occurrence_id, true,
            made.id
     from new join made using (occurrence_id, resource_id)
     union all
     select resource_id, unit, tstzrange(starts_at, ends_at), 'busy', occurrence_id, true, id
     from moved where id not in (select id from reclaimed)`,
    [
      JSON.stringify(made.map(row)),
      JSON.stringify(
        moved.map((one) => ({
          id: one.id,
          left_at: one.leftAt === null ? null : new Date(one.leftAt).toISOString(),
          agrees_anew: one.agreesAnew,
          ...row(one),
        })),
      ),
      dropped,
      released,
      new Date(now),
      moved.map((one) => one.id),
      staysAgreed,
    ],
  );
}
