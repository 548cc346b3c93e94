import type { Interval } from '../../core/time/interval.ts';
import type { Presence } from '../../core/booking/presence.ts';
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

/**
 * The rules of the resource that a statement reads, with whom it is assigned to. Written out, since a function
 * would be planned anew in every statement.
 */
export const RULES_SQL = `
  resource.rules || case when resource.owner_id is null then '{}'::jsonb else
    jsonb_build_object('assigned', jsonb_build_object(
      'ownerId', resource.owner_id,
      'owner', (select name from subject where id = resource.owner_id),
      'freeDays', coalesce((select jsonb_agg(to_char(day, 'YYYY-MM-DD') order by day)
                            from place_free_day where resource_id = resource.subject_id), '[]'))) end`;

const RESOURCES_SQL = `
  select subject.id, subject.name, resource.kind, site.name as site, capacity as seats, units,
         prepare_minutes as "prepareMinutes", clear_minutes as "clearMinutes", site.zone,
         ${RULES_SQL} as rules, retired_at is not null as "isRetired"
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

/** The reservations of events' occurrences, by the event. */
export async function readReservations(
  db: Database,
  eventIds: readonly string[],
): Promise<Map<string, HeldReservation[]>> {
  type Row = Omit<HeldReservation, 'agreed'> & {
    eventId: string;
    agreedStart: number | null;
    agreedEnd: number;
  };
  const found = new Map<string, HeldReservation[]>(eventIds.map((id) => [id, []]));
  if (eventIds.length === 0) return found;
  const { rows } = await db.query<Row>(
    `select occurrence.event_id as "eventId", reservation.id, reservation.occurrence_id as "occurrenceId",
            reservation.resource_id as "resourceId", reservation.unit, reservation.state,
            used_at as "usedAt", left_at as "leftAt",
            lower(claim.during) as start, upper(claim.during) as "end",
            lower(reservation.agreed) as "agreedStart", upper(reservation.agreed) as "agreedEnd"
     from occurrence
     -- Looked up date by date: however many there are of others, they are not read through.
     cross join lateral (select * from reservation
                         where occurrence_id = occurrence.id offset 0) reservation
     left join lateral (select during from claim
                        where reservation_id = reservation.id offset 0) claim on true
     where occurrence.event_id = any($1::uuid[])`,
    [eventIds],
  );
  for (const { eventId, agreedStart: start, agreedEnd: end, ...row } of rows)
    found.get(eventId)!.push({ ...row, agreed: start === null ? null : { start, end } });
  return found;
}

/** The resources of events to which a steward has yet to agree, by the event. */
export async function readRequestedOf(
  db: Database,
  eventIds: readonly string[],
): Promise<Map<string, number[]>> {
  const found = new Map<string, number[]>(eventIds.map((id) => [id, []]));
  const { rows } = await db.query<{ eventId: string; id: number }>(
    `select distinct occurrence.event_id as "eventId", reservation.resource_id as id
     from occurrence join reservation on reservation.occurrence_id = occurrence.id
     where occurrence.event_id = any($1::uuid[]) and reservation.state = 'requested'`,
    [eventIds],
  );
  for (const { eventId, id } of rows) found.get(eventId)!.push(id);
  return found;
}

/** Those of one event. */
export const readRequested = async (db: Database, eventId: string): Promise<number[]> =>
  (await readRequestedOf(db, [eventId])).get(eventId)!;

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
