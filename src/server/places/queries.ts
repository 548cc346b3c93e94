import { allRules, type KeptRules, type PlaceRules } from '../../core/booking/rules.ts';
import { type BoardPlace, type BoardQuery, type PlacesQuery } from '../../contract/places.ts';
import { MOST_ON_BOARD } from '../../contract/limits.ts';
import type { UnitClaim } from '../../core/booking/units.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { BookingRow } from '../access/index.ts';
import { holding } from '../db/like.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { RULES_SQL } from '../reservations/index.ts';
import { MANY_PLACES, MOST_PLACES_LOOKED_THROUGH } from './limits.ts';

/** A resource as it stands in the catalogue, without its state at a moment. */
export type ResourceFacts = Omit<BoardPlace, 'ruleWords' | 'isFavourite'>;
type ResourceRow = Omit<ResourceFacts, 'rules'> & { rules: KeptRules };
const withAllRules = (row: ResourceRow): ResourceFacts => ({ ...row, rules: allRules(row.rules) });

const FACT_COLUMNS = `
  subject.id, subject.name, resource.kind, site.id as "siteId", site.name as site, site.zone,
         resource.floor, resource.capacity, resource.units, resource.description, resource.features,
         resource.prepare_minutes as "prepareMinutes", resource.clear_minutes as "clearMinutes",
         ${RULES_SQL} as rules, resource.version,
         (select version from place_photo where resource_id = subject.id) as photo`;
const FACT_TABLES = `
  from resource
  join subject on subject.id = resource.subject_id
  join site on site.id = resource.site_id`;
const FACTS = `select ${FACT_COLUMNS} ${FACT_TABLES}`;

export async function readPlaceResources(
  db: Database,
  ids: readonly number[] | null,
): Promise<ResourceFacts[]> {
  const { rows } = await db.query<ResourceRow>(
    `${FACTS} where $1::int[] is null and resource.retired_at is null or subject.id = any($1)
     order by site.id, resource.kind, subject.name`,
    [ids],
  );
  return rows.map(withAllRules);
}

/** The places of a kind that are in use. */
export async function readKind(db: Database, kind: string): Promise<ResourceFacts[]> {
  const { rows } = await db.query<ResourceRow>(
    `${FACTS} where resource.kind = $1 and resource.retired_at is null
     order by subject.id limit ${MOST_PLACES_LOOKED_THROUGH}`,
    [kind],
  );
  return rows.map(withAllRules);
}

/** Where people are at home. */
export async function readWhereabouts(
  db: Database,
  ids: readonly number[],
): Promise<{ siteId: number | null; floor: string }[]> {
  const { rows } = await db.query<{ siteId: number | null; floor: string }>(
    'select site_id as "siteId", floor from person where subject_id = any($1)',
    [ids],
  );
  return rows;
}

/** Whether a unit of a resource can be had at an instant, and the conditions of a page. */
const LISTED = `
  select subject.id, subject.name, site.name as site, site.zone, resource.floor,
         ${RULES_SQL} as rules,
         coalesce(site.id = reader.site_id, false) as near,
         resource.units > (select count(distinct claim.unit) from claim
                           where claim.subject_id = subject.id and claim.exclusive
                             and claim.during @> $2::timestamptz) as is_free
  from resource
  join subject on subject.id = resource.subject_id
  join site on site.id = resource.site_id
  left join person reader on reader.subject_id = $1
  where resource.retired_at is null and ($3::text is null or resource.kind = $3) and ($4::int is null or site.id = $4)
    and ($6::text is null or resource.floor = $6)
    and concat_ws(' ', subject.name, site.name, array_to_string(resource.features, ' ')) ilike $5`;
/** In which order they stand; the last part makes it one of a kind. */
const ORDER = `not near, site, floor, name, id`;

/** A place among those that are listed, as far as it decides whether its reader can have it now. */
export interface ListedPlace {
  id: number;
  zone: string;
  rules: PlaceRules;
  /** Whether a unit of it is nobody's at that instant. */
  isFree: boolean;
}

/** The places that are asked for: the reader's own site first, then by site, floor and name. */
export async function readListed(
  db: Database,
  readerId: number,
  { kind, site, floor, q }: PlacesQuery,
  now: number,
): Promise<ListedPlace[]> {
  const { rows } = await db.query<Omit<ListedPlace, 'rules'> & { rules: KeptRules }>(
    `with listed as (${LISTED})
     select listed.id, is_free as "isFree", zone, rules from listed
     order by ${ORDER} limit ${MOST_PLACES_LOOKED_THROUGH}`,
    [readerId, new Date(now), kind ?? null, site ?? null, holding(q), floor ?? null],
  );
  return rows.map((row) => ({ ...row, rules: allRules(row.rules) }));
}

/** Places by their ids, in that order. */
export async function readInOrder(db: Database, ids: readonly number[]): Promise<ResourceFacts[]> {
  const { rows } = await db.query<ResourceRow>(
    `${FACTS} join unnest($1::int[]) with ordinality as asked (id, place) on asked.id = subject.id
     order by asked.place`,
    [ids],
  );
  return rows.map(withAllRules);
}

/** The places of a board, by site and floor, and how many there are in all. */
export async function readBoardPlaces(
  db: Database,
  { kind, site, place }: Pick<BoardQuery, 'kind' | 'site' | 'place'>,
): Promise<{ places: ResourceFacts[]; total: number }> {
  const { rows } = await db.query<ResourceRow & { total: number }>(
    `select count(*) over () as total, ${FACT_COLUMNS} ${FACT_TABLES}
     where ($1::text[] is null or resource.kind = any($1))
       and (resource.retired_at is null or $3::int is not null)
       and ($2::int is null or site.id = $2) and ($3::int is null or subject.id = $3)
     order by site.name, site.id, resource.floor, subject.name, subject.id limit ${MOST_ON_BOARD}`,
    [kind, site ?? null, place ?? null],
  );
  return {
    places: rows.map(({ total: _total, ...row }) => withAllRules(row)),
    total: rows[0]?.total ?? 0,
  };
}

/** Which places somebody wants to see first. */
export async function readFavourites(db: Database, personId: number): Promise<number[]> {
  const { rows } = await db.query<{ id: number }>(
    'select resource_id as id from favourite_place where person_id = $1',
    [personId],
  );
  return rows.map((row) => row.id);
}

export function insertFavourite(tx: Transaction, personId: number, id: number): void {
  tx.send('insert into favourite_place values ($1, $2) on conflict do nothing', [personId, id]);
}

export function deleteFavourite(tx: Transaction, personId: number, id: number): void {
  tx.send('delete from favourite_place where person_id = $1 and resource_id = $2', [personId, id]);
}

/** The sites at which there are places. */
export async function readSites(
  db: Database,
): Promise<{ id: number; name: string; zone: string }[]> {
  const { rows } = await db.query<{ id: number; name: string; zone: string }>(
    `select id, name, zone from site where exists (select 1 from resource where site_id = site.id and retired_at is null)
     order by name`,
  );
  return rows;
}

/** The floors of a site on which there are places. */
export async function readFloors(db: Database, siteId: number): Promise<string[]> {
  const { rows } = await db.query<{ floor: string }>(
    `select distinct floor from resource
     where site_id = $1 and retired_at is null and floor <> '' order by floor`,
    [siteId],
  );
  return rows.map((row) => row.floor);
}

const BOOKING_COLUMNS = `
  occurrence.event_id as "eventId", occurrence.recurrence_at as occurrence, claim.subject_id as "resourceId", claim.unit,
  occurrence.starts_at as start, coalesce(reservation.left_at, occurrence.ends_at) as "end",
  reservation.state, occurrence.title,
  occurrence.visibility, occurrence.organizer_id as "organizerId",
  subject.name as organizer, occurrence.organizer_id = $1 as mine,
  exists (select 1 from attendee
          where attendee.event_id = occurrence.event_id
            and attendee.person_id = any($2)) as "takesPart"`;

/**
 * Bookings whose claim on the resources overlaps a window, with the times and the title of the
 * occurrence itself.
 * @param principals the asker, and those for whom they act
 */
export const readBookings = (
  db: Database,
  principals: readonly number[],
  ids: readonly number[],
  from: number,
  to: number,
): Promise<BookingRow[]> => readBookingsNear(db, principals, ids, [{ start: from, end: to }]);

/** The same over several windows, each booking once. */
export async function readBookingsNear(
  db: Database,
  principals: readonly number[],
  ids: readonly number[],
  windows: readonly Interval[],
): Promise<BookingRow[]> {
  const eachPlace = ids.length < MANY_PLACES;
  const { rows } = await db.query<BookingRow>(
    `with near as materialized (
       select distinct claim.id, claim.subject_id, claim.unit, claim.occurrence_id, claim.reservation_id
       from ${eachPlace ? 'unnest($3::int[]) as resource (id) cross join' : ''}
            unnest($4::timestamptz[], $5::timestamptz[]) as span (starts_at, ends_at)
       join claim on claim.during && tstzrange(span.starts_at, span.ends_at)
       where claim.exclusive
         and claim.subject_id = ${eachPlace ? 'resource.id' : 'any($3::int[])'}
     )
     select ${BOOKING_COLUMNS}
     from near claim
     join reservation on reservation.id = claim.reservation_id
     join effective_occurrence occurrence on occurrence.id = claim.occurrence_id
     join subject on subject.id = occurrence.organizer_id
     order by claim.subject_id, occurrence.starts_at`,
    [
      principals[0],
      principals,
      ids,
      windows.map((one) => new Date(one.start)),
      windows.map((one) => new Date(one.end)),
    ],
  );
  return rows;
}

/** Where some people can be written to. */
export async function readEmails(
  db: Database,
  ids: readonly number[],
): Promise<Map<number, string>> {
  if (ids.length === 0) return new Map();
  const { rows } = await db.query<{ id: number; email: string }>(
    'select subject_id as id, email from person where subject_id = any($1::int[])',
    [[...new Set(ids)]],
  );
  return new Map(rows.map(({ id, email }) => [id, email]));
}

/** Exclusive claims of resources over several windows, buffers included, each once. */
export async function readPlaceClaimsNear(
  db: Database,
  ids: readonly number[],
  windows: readonly Interval[],
): Promise<(UnitClaim & { resourceId: number })[]> {
  const { rows } = await db.query<UnitClaim & { resourceId: number }>(
    `select distinct claim.id, claim.subject_id as "resourceId", claim.unit,
            lower(claim.during) as start, upper(claim.during) as "end"
     from unnest($1::int[]) as resource (id)
     cross join unnest($2::timestamptz[], $3::timestamptz[]) as span (starts_at, ends_at)
     join claim on claim.subject_id = resource.id
       and claim.during && tstzrange(span.starts_at, span.ends_at)
     where claim.exclusive
     order by "resourceId", start`,
    [ids, windows.map((one) => new Date(one.start)), windows.map((one) => new Date(one.end))],
  );
  return rows;
}

/** A place that becomes somebody's, or nobody's. */
export interface Owned {
  id: number;
  ownerId: number | null;
  /** The day on its clock, `YYYY-MM-DD`. */
  today: string;
}

/**
 * Makes places somebody's; days that were given free are their former owners' word, and forgotten.
 * @returns whether there are all these people
 */
export async function updateOwners(tx: Transaction, owned: readonly Owned[]): Promise<boolean> {
  const { rowCount } = await tx.query(
    `with given as materialized (
       select * from jsonb_to_recordset($1) as new (id int, "ownerId" int, today date)
     ), forgotten as (
       delete from place_free_day using resource, given
       where place_free_day.resource_id = given.id and resource.subject_id = given.id
         and (day < today or resource.owner_id is distinct from given."ownerId")
     )
     update resource set owner_id = "ownerId", version = version + 1
     from given
     where resource.subject_id = given.id
       and ("ownerId" is null or exists (select 1 from person where subject_id = "ownerId"))`,
    [JSON.stringify(owned)],
  );
  return rowCount === owned.length;
}

export function insertFreeDay(tx: Transaction, id: number, date: string): void {
  tx.send('insert into place_free_day values ($1, $2) on conflict do nothing', [id, date]);
}

export function deleteFreeDay(tx: Transaction, id: number, date: string): void {
  tx.send('delete from place_free_day where resource_id = $1 and day = $2', [id, date]);
}

/** Who has some reservations. */
export async function readHolders(
  db: Database,
  reservations: readonly number[],
): Promise<Map<number, number | null>> {
  const { rows } = await db.query<{ id: number; holder: number | null }>(
    'select id, holder_id as holder from reservation where id = any($1::bigint[])',
    [reservations],
  );
  return new Map(rows.map((row) => [row.id, row.holder]));
}

/** A picture of a place, with the version by which it is asked for. */
export async function readPhoto(
  db: Database,
  id: number,
): Promise<{ type: string; content: Buffer; version: number } | null> {
  const { rows } = await db.query<{ type: string; content: Buffer; version: number }>(
    'select type, content, version from place_photo where resource_id = $1',
    [id],
  );
  return rows[0] ?? null;
}

/** Keeps a picture in place of the one before. */
export function upsertPhoto(tx: Transaction, id: number, type: string, content: Buffer): void {
  tx.send(
    `insert into place_photo (resource_id, type, content) values ($1, $2, $3)
     on conflict (resource_id) do update
       set type = excluded.type, content = excluded.content, version = place_photo.version + 1`,
    [id, type, content],
  );
}

export function deletePhoto(tx: Transaction, id: number): void {
  tx.send('delete from place_photo where resource_id = $1', [id]);
}

/** Whose places are, by their ids, held against others who give them to somebody. */
export async function readOwners(
  tx: Transaction,
  ids: readonly number[],
): Promise<Map<number, { name: string; ownerId: number | null }>> {
  const { rows } = await tx.query<{ id: number; name: string; ownerId: number | null }>(
    `select subject.id, subject.name, owner_id as "ownerId"
     from resource join subject on subject.id = resource.subject_id
     where resource.subject_id = any($1) order by 1 for no key update of resource`,
    [ids],
  );
  return new Map(rows.map(({ id, ...one }) => [id, one]));
}
