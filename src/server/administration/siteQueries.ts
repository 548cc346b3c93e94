import type { NewSite, SiteDetail } from '../../contract/administration.ts';
import { WHOLE_DAY, type Holiday } from '../../core/time/workingHours.ts';
import type { Database, Transaction } from '../db/transaction.ts';

const FLOORS = `
            coalesce((select json_agg(json_build_object('id', floor.id, 'name', floor.name)
                                      order by floor.position, floor.id)
                      from floor where site_id = site.id), '[]') as floors`;

/** The sites of the organization, the first one first. */
export async function readSites(db: Database): Promise<SiteDetail[]> {
  const { rows } = await db.query<SiteDetail>(
    `select site.id, site.version, site.name, site.city, site.zone, site.hours,
            coalesce((select json_agg(json_strip_nulls(json_build_object('date', date::text, 'name', name, 'part',
                        case when off_from > 0 or off_until < 1440
                             then json_build_object('start', off_from, 'end', off_until) end)) order by date, name)
                      from holiday where site_id = site.id), '[]') as holidays,
            ${FLOORS},
            (select count(*) from person
             where site_id = site.id and account not in ('ended', 'removed')) as people,
            (select count(*) from resource
             where site_id = site.id and retired_at is null) as places
     from site join organization on organization.id = site.organization_id
     where organization.is_home and site.removed_at is null
     order by site.id`,
  );
  return rows;
}

/** The same of one site, held against other changes; null where it is none, removed ones too. */
export async function lockSite(
  tx: Transaction,
  id: number,
): Promise<(Omit<SiteDetail, 'people' | 'places'> & { isRemoved: boolean }) | null> {
  await tx.query('select from site where id = $1 for no key update', [id]);
  const { rows } = await tx.query<Omit<SiteDetail, 'people' | 'places'> & { isRemoved: boolean }>(
    `select site.id, site.version, site.name, site.city, site.zone, site.hours,
            site.removed_at is not null as "isRemoved",
            coalesce((select json_agg(json_strip_nulls(json_build_object('date', date::text, 'name', name, 'part',
                        case when off_from > 0 or off_until < 1440
                             then json_build_object('start', off_from, 'end', off_until) end)) order by date, name)
                      from holiday where site_id = site.id), '[]') as holidays,
            ${FLOORS}
     from site join organization on organization.id = site.organization_id
     where organization.is_home and site.id = $1`,
    [id],
  );
  return rows[0] ?? null;
}

/** Whether another site of the organization has a name. */
export async function isSiteName(
  tx: Transaction,
  name: string,
  but: number | null,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `select from site join organization on organization.id = site.organization_id
     where organization.is_home and site.removed_at is null and lower(site.name) = lower($1)
       and site.id is distinct from $2`,
    [name, but],
  );
  return rowCount !== 0;
}

export async function insertSite(
  tx: Transaction,
  organizationId: number,
  { name, city, zone, hours }: NewSite,
): Promise<number> {
  const { rows } = await tx.query<{ id: number }>(
    `insert into site (organization_id, name, city, zone, hours) values ($1, $2, $3, $4, $5) returning id`,
    [organizationId, name, city, zone, JSON.stringify(hours)],
  );
  return rows[0]!.id;
}

export function updateSite(
  tx: Transaction,
  id: number,
  {
    name,
    city,
    zone,
    hours,
    isRemoved,
  }: Pick<SiteDetail, 'name' | 'city' | 'zone' | 'hours'> & { isRemoved: boolean },
  now: number,
): void {
  tx.send(
    `update site set name = $2, city = $3, zone = $4, hours = $5, version = version + 1,
                     removed_at = case when $6 then coalesce(removed_at, $7) end
     where id = $1`,
    [id, name, city, zone, JSON.stringify(hours), isRemoved, new Date(now)],
  );
}

/** The holidays of a site are these from now on. */
export function writeHolidays(
  tx: Transaction,
  siteId: number,
  holidays: NewSite['holidays'],
): void {
  tx.send('delete from holiday where site_id = $1', [siteId]);
  tx.send(
    `insert into holiday (site_id, date, name, off_from, off_until)
     select $1, * from unnest($2::date[], $3::text[], $4::int[], $5::int[])`,
    [
      siteId,
      holidays.map(({ date }) => date),
      holidays.map(({ name }) => name),
      holidays.map(({ part = WHOLE_DAY }) => part.start),
      holidays.map(({ part = WHOLE_DAY }) => part.end),
    ],
  );
}

/** Numbers for floors that are new. */
export async function nextFloors(tx: Transaction, count: number): Promise<number[]> {
  if (count === 0) return [];
  const { rows } = await tx.query<{ id: number }>(
    `select nextval(pg_get_serial_sequence('floor', 'id'))::int as id from generate_series(1, $1)`,
    [count],
  );
  return rows.map((row) => row.id);
}

/** How many places that are in use stand on floors of a site, by the floors' names. */
export async function readPlacesOnFloors(
  tx: Transaction,
  siteId: number,
  names: readonly string[],
): Promise<Map<string, number>> {
  const { rows } = await tx.query<{ floor: string; count: number }>(
    `select floor, count(*)::int as count from resource
     where site_id = $1 and floor = any($2) and retired_at is null group by floor`,
    [siteId, names],
  );
  return new Map(rows.map(({ floor, count }) => [floor, count]));
}

/** The floors of a site are these from now on; places, desks of people and what stewards look after go along with their names. */
export function writeFloors(
  tx: Transaction,
  siteId: number,
  before: SiteDetail['floors'],
  after: SiteDetail['floors'],
): void {
  const former = new Map(before.map(({ id, name }) => [id, name]));
  const renamed = after.flatMap(({ id, name }) => {
    const was = former.get(id);
    return was === undefined || was === name ? [] : [{ was, name }];
  });
  tx.send('delete from floor where site_id = $1', [siteId]);
  tx.send(
    `insert into floor (id, site_id, name, position) overriding system value
     select id, $1, name, at from jsonb_to_recordset($2) as new (id int, name text, at int)`,
    [siteId, JSON.stringify(after.map((one, at) => ({ ...one, at })))],
  );
  if (renamed.length === 0) return;
  tx.send(
    `with renamed as (select * from jsonb_to_recordset($2) as new (was text, name text)),
     charged as (
       update charge set floor = renamed.name from renamed
       where charge.site_id = $1 and charge.floor = renamed.was
     ), seated as (
       update person set floor = renamed.name from renamed
       where person.site_id = $1 and person.floor = renamed.was
     )
     update resource set floor = renamed.name, version = version + 1 from renamed
     where resource.site_id = $1 and resource.floor = renamed.was`,
    [siteId, JSON.stringify(renamed)],
  );
}

/** A day off of several sites, in the place of whatever they have that day. */
export function putDayOff(tx: Transaction, siteIds: readonly number[], day: Holiday): void {
  if (siteIds.length === 0) return;
  const { start, end } = day.part ?? WHOLE_DAY;
  tx.send('delete from holiday where site_id = any($1) and date = $2', [siteIds, day.date]);
  tx.send(
    `with versioned as (update site set version = version + 1 where id = any($1))
     insert into holiday (site_id, date, name, off_from, off_until)
     select id, $2, $3, $4, $5 from unnest($1::int[]) as id`,
    [siteIds, day.date, day.name, start, end],
  );
}
