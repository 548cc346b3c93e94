import type { Closure } from '../../contract/closures.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** Keeps that a place is out of use, each of its units being claimed meanwhile. */
export async function insertClosures(
  tx: Transaction,
  places: readonly { id: number; units: number }[],
  { start, end, reason }: Omit<Closure, 'id' | 'placeId'>,
  { by, now }: { by: number | null; now: number },
): Promise<Map<number, number>> {
  const { rows } = await tx.query<{ id: number; placeId: number }>(
    `with place as (
       select * from jsonb_to_recordset($1) as place (id int, units int)
     ), made as (
       insert into closure (resource_id, starts_at, ends_at, reason, made_by, made_at)
       select id, $2, $3, $4, $5, $6 from place returning id, resource_id
     ), claimed as (
       insert into claim (subject_id, unit, during, occupancy, exclusive, closure_id)
       select place.id, unit, tstzrange($2, $3), 'busy', true, made.id
       from made join place on place.id = made.resource_id, generate_series(1, place.units) as unit
     )
     select id, resource_id as "placeId" from made`,
    [
      JSON.stringify(places.map(({ id, units }) => ({ id, units }))),
      ...[new Date(start), new Date(end), reason, by, new Date(now)],
    ],
  );
  return new Map(rows.map(({ id, placeId }) => [placeId, id]));
}

/** A time out of use that is ended, with its place's name, and whether that is retired. */
export type EndedClosure = Closure & { name: string; isRetired: boolean };

/** Ends times out of use, each of its place. @returns those that there were */
export async function deleteClosures(
  tx: Transaction,
  closures: readonly Pick<Closure, 'placeId' | 'id'>[],
): Promise<EndedClosure[]> {
  if (closures.length === 0) return [];
  const { rows } = await tx.query<EndedClosure>(
    `delete from closure using subject, resource
     where subject.id = resource_id and resource.subject_id = resource_id
       and (closure.id, resource_id) in (select * from unnest($1::int[], $2::int[]))
     returning closure.id, resource_id as "placeId", starts_at as start, ends_at as "end", reason, name,
       retired_at is not null as "isRetired"`,
    [closures.map((one) => one.id), closures.map((one) => one.placeId)],
  );
  return rows;
}

/** When some places are out of use within a window, by place and time. */
export async function readClosures(
  db: Database,
  placeIds: readonly number[],
  { start, end }: Interval,
): Promise<Closure[]> {
  if (placeIds.length === 0) return [];
  const { rows } = await db.query<Closure>(
    `select id, resource_id as "placeId", starts_at as start, ends_at as "end", reason
     from closure where resource_id = any($1) and starts_at < $3 and ends_at > $2
     order by resource_id, starts_at`,
    [placeIds, new Date(start), new Date(end)],
  );
  return rows;
}
