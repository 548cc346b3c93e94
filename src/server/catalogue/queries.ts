import { type KeptRules } from '../../core/booking/rules.ts';
import type { CatalogueChoices, NewPlace } from '../../contract/catalogue.ts';
import type { PlacedBooking } from '../../core/booking/upkeep.ts';
import type { UnitClaim } from '../../core/booking/units.ts';

import { MOST_IN_FILE } from './limits.ts';
import type { Unprojected } from '../access/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** A place as it is kept. */
export interface KeptPlace extends Omit<NewPlace, 'rules'> {
  id: number;
  zone: string;
  rules: KeptRules;
  version: number;
  isRetired: boolean;
  /** Whose it is, where it is somebody's. */
  ownerId: number | null;
}

const KEPT_SQL = `
  select subject.id, subject.name, resource.kind, site_id as "siteId", site.zone, floor, capacity,
         units, description, features, prepare_minutes as "prepareMinutes",
         clear_minutes as "clearMinutes", rules, resource.version, retired_at is not null as "isRetired",
         owner_id as "ownerId"
  from resource
  join subject on subject.id = resource.subject_id
  join site on site.id = resource.site_id`;

/** Holds places against other changes until the transaction ends. */
export function lockPlaces(tx: Transaction, ids: readonly number[]): void {
  tx.send(
    'select 1 from resource where subject_id = any($1) order by subject_id for no key update',
    [ids],
  );
}

/** A place, held against other changes until the transaction ends. */
export async function lockPlace(tx: Transaction, id: number): Promise<KeptPlace | null> {
  lockPlaces(tx, [id]);
  return readPlace(tx, id);
}

export async function readPlace(db: Database, id: number): Promise<KeptPlace | null> {
  const { rows } = await db.query<KeptPlace>(`${KEPT_SQL} where subject.id = $1`, [id]);
  return rows[0] ?? null;
}

/** Places by their ids, retired ones too. */
export async function readPlaces(db: Database, ids: readonly number[]): Promise<KeptPlace[]> {
  const { rows } = await db.query<KeptPlace>(`${KEPT_SQL} where subject.id = any($1)`, [ids]);
  return rows;
}

/** Holds sites against others who add or name places there. @returns those there are */
export async function lockSites(tx: Transaction, ids: readonly number[]): Promise<Set<number>> {
  const { rows } = await tx.query<{ id: number }>(
    'select id from site where id = any($1) order by id for no key update',
    [ids],
  );
  return new Set(rows.map((row) => row.id));
}

/** The places of some sites that are not retired, by site and name. */
export async function readPlacesOf(db: Database, siteIds: readonly number[]): Promise<KeptPlace[]> {
  const { rows } = await db.query<KeptPlace>(
    `${KEPT_SQL} where site_id = any($1) and retired_at is null order by site_id, subject.name`,
    [siteIds],
  );
  return rows;
}

/** All places there are, retired ones too, by site and name, with the names of their sites. */
export async function readAllPlaces(
  db: Database,
): Promise<{ places: KeptPlace[]; sites: ReadonlyMap<number, string> }> {
  const [places, sites] = await Promise.all([
    db.query<KeptPlace>(
      `${KEPT_SQL} order by site.name, retired_at is not null, subject.name, subject.id
       limit ${MOST_IN_FILE}`,
    ),
    db.query<{ id: number; name: string }>('select id, name from site where removed_at is null'),
  ]);
  return { places: places.rows, sites: new Map(sites.rows.map(({ id, name }) => [id, name])) };
}

/** The places of some sites that are retired, the last of a name at its site. */
export async function readRetiredOf(
  db: Database,
  siteIds: readonly number[],
): Promise<KeptPlace[]> {
  const { rows } = await db.query<KeptPlace>(
    `${KEPT_SQL}
     where subject.id in (
       select distinct on (site_id, lower(name)) resource.subject_id
       from resource join subject on subject.id = resource.subject_id
       where site_id = any($1) and retired_at is not null
       order by site_id, lower(name), retired_at desc)`,
    [siteIds],
  );
  return rows;
}

const row = ({ siteId, prepareMinutes, clearMinutes, rules, ...rest }: NewPlace) => ({
  ...rest,
  site_id: siteId,
  prepare_minutes: prepareMinutes,
  clear_minutes: clearMinutes,
  // What is no bound is not kept.
  rules: Object.fromEntries(Object.entries(rules).filter(([, bound]) => bound !== null)),
});

const COLUMNS = `name text, kind text, site_id int, floor text, capacity int, units int,
  description text, features text[], prepare_minutes int, clear_minutes int, rules jsonb`;

/** Floors that places name first are floors of their sites from then on. */
const FLOORS_NAMED = `floors_named as (
       insert into floor (site_id, name, position)
       select site_id, floor, (select coalesce(max(position) + 1, 0) from floor there where there.site_id = new.site_id)
       from (select distinct site_id, floor from given where floor <> '') new
       on conflict (site_id, name) do nothing
     )`;

/** Adds places, in one statement. @returns their ids, in that order */
export async function insertPlaces(
  tx: Transaction,
  places: readonly NewPlace[],
): Promise<number[]> {
  const { rows } = await tx.query<{ id: number }>(
    `with given as materialized (
       select nextval(pg_get_serial_sequence('subject', 'id')) as id, new.*
       from jsonb_to_recordset($1) as new (${COLUMNS}, place int)
     ), named as (
       insert into subject (id, kind, name) overriding system value
       select id, 'resource', name from given returning id
     ), made as (
       insert into resource (subject_id, kind, site_id, floor, capacity, units, description,
                             features, prepare_minutes, clear_minutes, rules)
       select named.id, given.kind, site_id, floor, capacity, units, description, features,
              prepare_minutes, clear_minutes, rules
       from given join named on named.id = given.id
       returning subject_id
     ), ${FLOORS_NAMED}
     select id from given join made on made.subject_id = given.id order by place`,
    [JSON.stringify(places.map((one, place) => ({ ...row(one), place })))],
  );
  return rows.map((one) => one.id);
}

/** Changes places to what is given, in one statement. */
export function updatePlaces(
  tx: Transaction,
  places: readonly (NewPlace & { id: number })[],
): void {
  tx.send(
    `with given as materialized (
       select * from jsonb_to_recordset($1) as new (id int, ${COLUMNS})
     ), named as (
       update subject set name = given.name from given where subject.id = given.id
     ), ${FLOORS_NAMED}
     update resource
     set kind = given.kind, site_id = given.site_id, floor = given.floor,
         capacity = given.capacity, units = given.units, description = given.description,
         features = given.features, prepare_minutes = given.prepare_minutes,
         clear_minutes = given.clear_minutes, rules = given.rules, version = version + 1
     from given where resource.subject_id = given.id`,
    [JSON.stringify(places.map(({ id, ...place }) => ({ id, ...row(place) })))],
  );
}

/** Marks places as retired. */
export function retirePlaces(tx: Transaction, ids: readonly number[], now: number): void {
  tx.send('update resource set retired_at = $2, version = version + 1 where subject_id = any($1)', [
    ids,
    new Date(now),
  ]);
}

/** Places that were retired are there again. */
export function returnPlaces(tx: Transaction, ids: readonly number[]): void {
  tx.send(
    'update resource set retired_at = null, version = version + 1 where subject_id = any($1)',
    [ids],
  );
}

/** How sites, teams and people are called that a log names, by what they are and their ids. */
export async function readLogNames(
  db: Database,
  { site, team, person }: Record<'site' | 'team' | 'person', readonly number[]>,
): Promise<Map<string, string>> {
  if (site.length + team.length + person.length === 0) return new Map();
  const { rows } = await db.query<{ key: string; name: string }>(
    `select 'site ' || id as key, name from site where id = any($1)
     union all select 'team ' || id, name from team where id = any($2)
     union all select 'person ' || id, name from subject where id = any($3)`,
    [site, team, person],
  );
  return new Map(rows.map(({ key, name }) => [key, name]));
}

/** A booking to come, as far as a change of its place asks. */
export interface Coming extends PlacedBooking {
  placeId: number;
  title: Unprojected<string>;
  eventId: string;
  holder: string;
  /** Null for somebody outside. */
  holderId: number | null;
  teams: number[];
}

/**
 * The bookings of places that end after an instant, the earliest first.
 * @param most no more of them are read
 */
export async function readComing(
  db: Database,
  ids: readonly number[],
  now: number,
  most: number | null = null,
): Promise<Coming[]> {
  if (ids.length === 0) return [];
  const { rows } = await db.query<Coming>(
    `select reservation.id, claim.subject_id as "placeId", reservation.unit, occurrence.starts_at as start,
            coalesce(reservation.left_at, occurrence.ends_at) as "end", occurrence.title,
            occurrence.event_id as "eventId",
            coalesce(holder.name, 'somebody outside') as holder, holder.id as "holderId",
            array(select team_id from team_member
                  where person_id = occurrence.organizer_id) as teams
     from claim
     join reservation on reservation.id = claim.reservation_id
     join effective_occurrence occurrence on occurrence.id = claim.occurrence_id
     left join subject holder on holder.id = occurrence.organizer_id
     where claim.subject_id = any($1) and claim.during && tstzrange($2, null)
     order by occurrence.starts_at, reservation.id limit $3`,
    [ids, new Date(now), most],
  );
  return rows;
}

/** What is claimed of one of a place's units. */
export type ComingClaim = UnitClaim & { id: number; placeId: number };

/** What is claimed of places from an instant on, out of use left out. */
export async function readComingClaims(
  db: Database,
  ids: readonly number[],
  now: number,
): Promise<ComingClaim[]> {
  if (ids.length === 0) return [];
  const { rows } = await db.query<ComingClaim>(
    `select reservation_id as id, subject_id as "placeId", unit, lower(during) as start,
            upper(during) as "end"
     from claim
     where subject_id = any($1) and reservation_id is not null and during && tstzrange($2, null)`,
    [ids, new Date(now)],
  );
  return rows;
}

/** What stewards choose from. */
export async function readChoices(db: Database): Promise<CatalogueChoices> {
  const [sites, teams, features] = await Promise.all([
    db.query<{ id: number; name: string }>(
      'select id, name from site where removed_at is null order by name limit 500',
    ),
    db.query<{ id: number; name: string }>(
      'select id, name from team where removed_at is null order by name limit 500',
    ),
    db.query<{ feature: string }>(
      `select distinct unnest(features) as feature from resource where retired_at is null
       order by 1 limit 500`,
    ),
  ]);
  return {
    sites: sites.rows,
    teams: teams.rows,
    features: features.rows.map((one) => one.feature),
  };
}
