import { hash } from '@node-rs/argon2';
import { addDays, dateAt, weekdayOf } from '../../src/core/time/wall.ts';
import type { Transaction } from '../../src/server/db/transaction.ts';
import { drawingOf } from './drawings.ts';
import {
  HOME,
  HOME_DOMAIN,
  PARTNER,
  PARTNER_DOMAIN,
  PARTNER_PEOPLE,
  PARTNER_SITE,
  PEOPLE,
  RESOURCES,
  SITE_FLOORS,
  SITES,
  TEAM_FLOORS,
  TEAMS,
  type SamplePerson,
  type SampleResource,
  type SampleSite,
  type SampleTeam,
} from './organization.ts';

export const DEMONSTRATION_PASSWORD = 'tern-rock';

export interface LoadedPerson {
  id: number;
  name: string;
  email: string;
  zone: string;
  /** Index into SITES; null for partners. */
  site: number | null;
  team: SampleTeam | null;
  hours: [number, number];
  weekdays: number[];
}

export interface LoadedResource extends SampleResource {
  id: number;
}

export interface LoadedOrganization {
  people: LoadedPerson[];
  resources: LoadedResource[];
}

/** `Jonas Vågen` as `jonas.vagen`. */
const mailbox = (name: string): string =>
  name
    .replace(/æ/gi, 'ae')
    .replace(/ø/gi, 'o')
    .replace(/ł/gi, 'l')
    .normalize('NFD')
    .replace(/[^a-zA-Z ]/g, '')
    .trim()
    .toLowerCase()
    .replace(/ +/g, '.');

/** Writes organizations, sites, teams, people and resources; calendars are another matter. */
export async function loadOrganization(tx: Transaction, now: number): Promise<LoadedOrganization> {
  const home = await insertOrganization(tx, HOME, true);
  const partner = await insertOrganization(tx, PARTNER, false);
  const sites: number[] = [];
  for (const site of SITES) sites.push(await insertSite(tx, home, site));
  const partnerSite = await insertSite(tx, partner, PARTNER_SITE);
  const teams = new Map<SampleTeam, number>();
  for (const name of TEAMS) {
    const { rows } = await tx.query<{ id: number }>(
      'insert into team (organization_id, name) values ($1, $2) returning id',
      [home, name],
    );
    teams.set(name, rows[0]!.id);
  }
  const passwordHash = await hash(DEMONSTRATION_PASSWORD);
  await tx.query(`insert into setting (key, value) values ('letters-arrive', $1)`, [now]);
  await tx.query(`insert into setting (key, value) values ('demonstration', $1)`, [
    JSON.stringify({ password: DEMONSTRATION_PASSWORD }),
  ]);

  const named = [...PEOPLE.flat(), ...PARTNER_PEOPLE].map((one) => one.name);
  const ids = await insertSubjects(tx, 'person', named);
  const people: LoadedPerson[] = [];
  for (const [index, group] of PEOPLE.entries()) {
    for (const person of group) {
      const loaded = insertPerson(tx, ids[people.length]!, person, SITES[index]!, {
        organizationId: home,
        siteId: sites[index]!,
        domain: HOME_DOMAIN,
        passwordHash,
      });
      tx.send('insert into team_member (team_id, person_id) values ($1, $2)', [
        teams.get(person.team),
        loaded.id,
      ]);
      if (person.coordinates)
        tx.send('insert into coordination (team_id, person_id) values ($1, $2)', [
          teams.get(person.coordinates),
          loaded.id,
        ]);
      tx.send('update person set floor = $2 where subject_id = $1', [
        loaded.id,
        SITE_FLOORS[index] || TEAM_FLOORS[person.team],
      ]);
      people.push({ ...loaded, site: index, team: person.team });
    }
  }
  for (const person of PARTNER_PEOPLE) {
    const loaded = insertPerson(tx, ids[people.length]!, person, PARTNER_SITE, {
      organizationId: partner,
      siteId: partnerSite,
      domain: PARTNER_DOMAIN,
      passwordHash: null,
    });
    people.push({ ...loaded, site: null, team: null });
  }
  const resources: LoadedResource[] = [];
  const placeIds = await insertSubjects(
    tx,
    'resource',
    RESOURCES.map((one) => one.name),
  );
  for (const [k, resource] of RESOURCES.entries()) {
    const id = placeIds[k]!;
    insertResource(tx, id, resource, sites, teams);
    resources.push({ ...resource, id });
    tx.send(`insert into place_photo (resource_id, type, content) values ($1, 'image/png', $2)`, [
      id,
      drawingOf(resource),
    ]);
    const owner = people.find((one) => one.name === resource.owner?.name);
    if (owner) assign(tx, id, owner.id, resource.owner!.freeOn, now);
  }
  // Most were here lately.
  await tx.query(
    `update person set seen_at = $1::timestamptz - (subject_id % 9) * interval '7 hours' - interval '20 minutes'
     where account = 'active' and subject_id % 17 <> 0`,
    [new Date(now)],
  );
  return { people, resources };
}

async function insertOrganization(tx: Transaction, name: string, isHome: boolean) {
  const { rows } = await tx.query<{ id: number }>(
    'insert into organization (name, is_home) values ($1, $2) returning id',
    [name, isHome],
  );
  return rows[0]!.id;
}

async function insertSite(tx: Transaction, organizationId: number, site: SampleSite) {
  const { rows } = await tx.query<{ id: number }>(
    'insert into site (organization_id, name, city, zone) values ($1, $2, $3, $4) returning id',
    [organizationId, site.name, site.city, site.zone],
  );
  return rows[0]!.id;
}

/** Subjects of the given names, in their order, by one statement. @returns their ids */
async function insertSubjects(
  tx: Transaction,
  kind: string,
  names: readonly string[],
): Promise<number[]> {
  const { rows } = await tx.query<{ id: number }>(
    `insert into subject (kind, name)
     select $1, name from unnest($2::text[]) with ordinality as new (name, position)
     order by position returning id`,
    [kind, names],
  );
  return rows.map((row) => row.id);
}

function insertPerson(
  tx: Transaction,
  id: number,
  person: Omit<SamplePerson, 'team'>,
  site: SampleSite,
  home: { organizationId: number; siteId: number; domain: string; passwordHash: string | null },
): Omit<LoadedPerson, 'site' | 'team'> {
  const email = `${mailbox(person.name)}@${home.domain}`;
  const furtherZones = SITES.map((other) => other.zone)
    .filter((zone) => zone !== site.zone)
    .slice(0, 2);
  tx.send(
    `insert into person (subject_id, organization_id, site_id, email, job_title, zone, further_zones,
                         role, password_hash, share_organization, account)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, case when $9::text is null then 'none' else 'active' end)`,
    [
      id,
      home.organizationId,
      home.siteId,
      email,
      person.title,
      site.zone,
      furtherZones,
      person.role ?? 'staff',
      home.passwordHash,
      person.shares ?? 'busy',
    ],
  );
  if (person.keeps)
    tx.send('insert into charge (person_id, site_id, kind) values ($1, $2, $3)', [
      id,
      person.keeps === 'their site' ? home.siteId : null,
      person.keeps === 'their site' ? null : person.keeps,
    ]);
  const hours = person.hours ?? site.hours;
  const weekdays = person.weekdays ?? [1, 2, 3, 4, 5];
  tx.send(
    `insert into working_shift (person_id, weekday, start_minute, end_minute)
     select $1, weekday, $3, $4 from unnest($2::int[]) as days (weekday)`,
    [id, weekdays, hours[0], hours[1]],
  );
  return { id, name: person.name, email, zone: site.zone, hours, weekdays };
}

/** How many days ahead desks are given free. */
const FREE_AHEAD = 28;

function assign(
  tx: Transaction,
  id: number,
  ownerId: number,
  freeOn: readonly number[],
  now: number,
): void {
  const today = dateAt(now, 'UTC');
  const days = Array.from({ length: FREE_AHEAD }, (_, k) => addDays(today, k)).filter((day) =>
    freeOn.includes(weekdayOf(day)),
  );
  tx.send('update resource set owner_id = $2 where subject_id = $1', [id, ownerId]);
  tx.send('insert into place_free_day select $1, unnest($2::date[])', [id, days]);
}

function insertResource(
  tx: Transaction,
  id: number,
  resource: SampleResource,
  sites: readonly number[],
  teams: ReadonlyMap<string, number>,
): void {
  const rules = {
    ...resource.rules,
    ...(resource.rules?.teams && { teams: resource.rules.teams.map((name) => teams.get(name)!) }),
  };
  tx.send(
    `insert into resource (subject_id, kind, site_id, floor, capacity, units, description, features,
                           prepare_minutes, clear_minutes, rules)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
    [
      id,
      resource.kind,
      sites[resource.site],
      resource.floor ?? '',
      resource.capacity ?? 0,
      resource.units ?? 1,
      resource.description ?? '',
      resource.features ?? [],
      resource.buffers?.[0] ?? 0,
      resource.buffers?.[1] ?? 0,
      JSON.stringify(rules),
    ],
  );
  if (resource.floor)
    tx.send(
      `insert into floor (site_id, name, position)
       values ($1, $2::text, $2::text::int) on conflict do nothing`,
      [sites[resource.site], resource.floor],
    );
}
