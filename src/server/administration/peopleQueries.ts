import { addressKey } from '../../core/mailAddress.ts';
import type { ReachValues } from '../../core/people/reach.ts';
import type { AccountState } from '../../core/people/personFacts.ts';
import type {
  NewPerson,
  StaffList,
  StaffMember,
  StaffQuery,
} from '../../contract/administration.ts';
import type { Role } from '../../contract/administration.ts';
import { holding } from '../db/like.ts';
import { FORGET_JOB } from '../keeping/index.ts';
import { MOST_IN_FILE } from './limits.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** Somebody of the organization as they are kept. */
export interface KeptPerson extends ReachValues {
  id: number;
  version: number;
  name: string;
  email: string;
  jobTitle: string;
  siteId: number | null;
  zone: string;
  role: Role;
  teams: number[];
  account: AccountState;
  hasPassword: boolean;
}

const STANDS = `case person.account when 'ended' then 'left' when 'invited' then 'waiting' else 'present' end`;

/** What each column is sorted by. */
const SORTED: Record<StaffQuery['sort'], string> = {
  name: 'lower(subject.name)',
  email: 'lower(person.email)',
  site: 'site.name',
  zone: 'person.zone',
  role: 'person.role',
  seen: 'person.seen_at',
};

/** A part of the people of the organization, and how many there are in all. */
export async function readStaff(
  db: Database,
  { q, standing, site, team, role, sort, order, after, limit }: StaffQuery,
): Promise<Pick<StaffList, 'total'> & { people: Omit<StaffMember, 'letter' | 'welcomedAt'>[] }> {
  const direction = order === 'up' ? 'asc nulls first' : 'desc nulls last';
  const { rows } = await db.query<
    Omit<StaffMember, 'letter' | 'welcomedAt'> & { place: number; total: number }
  >(
    `with listed as materialized (
       select person.subject_id,
              row_number() over (order by ${SORTED[sort]} ${direction}, lower(subject.name), subject.id) as place,
              count(*) over () as total
       from person
       join organization on organization.id = person.organization_id and organization.is_home
       join subject on subject.id = person.subject_id
       left join site on site.id = person.site_id
       where person.account <> 'removed'
         and case $2 when 'present' then person.account <> 'ended' else ${STANDS} = $2 end
         and ($3::int is null or person.site_id = $3)
         and ($4::int is null or exists (select from team_member where person_id = person.subject_id and team_id = $4))
         and ($5::text is null or person.role = $5)
         and ($1 = '%%' or concat_ws(' ', subject.name, person.email, person.job_title) ilike $1
              or exists (select from team_member join team on team.id = team_member.team_id
                         where team_member.person_id = person.subject_id and team.name ilike $1))
     )
     select subject.id, person.version, subject.name, person.email, person.job_title as "jobTitle",
            case when site.id is not null
                 then json_build_object('id', site.id, 'name', site.name) end as site,
            person.zone, person.role,
            coalesce((select json_agg(json_build_object('id', team.id, 'name', team.name) order by team.name)
                      from team_member join team on team.id = team_member.team_id
                      where team_member.person_id = subject.id), '[]') as teams,
            coalesce((select json_agg(json_build_object(
                        'siteId', charge.site_id, 'floor', charge.floor, 'kind', charge.kind,
                        'placeId', charge.place_id, 'site', at.name, 'place', thing.name)
                        order by at.name, charge.floor, charge.kind, thing.name)
                      from charge left join site at on at.id = charge.site_id
                      left join subject thing on thing.id = charge.place_id
                      where charge.person_id = subject.id), '[]') as reach,
            (select json_build_object('id', deputy.id, 'name', deputy.name)
             from subject deputy where deputy.id = person.deputy_id) as deputy,
            coalesce((select json_agg(json_build_object('id', team.id, 'name', team.name) order by team.name)
                      from coordination join team on team.id = coordination.team_id
                      where coordination.person_id = subject.id), '[]') as coordinates,
            person.account, person.seen_at as "seenAt", listed.place, listed.total
     from listed
     join subject on subject.id = listed.subject_id
     join person on person.subject_id = listed.subject_id
     left join site on site.id = person.site_id
     where $6::int is null or place > (select place from listed where subject_id = $6)
     order by place limit $7`,
    [holding(q), standing, site ?? null, team ?? null, role ?? null, after ?? null, limit],
  );
  const people = rows.map(({ place: _place, total: _total, ...person }) => person);
  return { people, total: rows[0]?.total ?? 0 };
}

/** How many there are of each standing. */
export async function countStandings(db: Database): Promise<NonNullable<StaffList['counts']>> {
  const { rows } = await db.query<Record<'present' | 'waiting' | 'left', number>>(
    `select count(*) filter (where account <> 'ended') as present,
            count(*) filter (where account = 'invited') as waiting,
            count(*) filter (where account = 'ended') as left
     from person join organization on organization.id = person.organization_id
     where organization.is_home and account <> 'removed'`,
  );
  return rows[0]!;
}

/**
 * Lets others who add, change or end people wait, so that an address is one person's, and an administrator stays.
 * @returns the organization whose installation this is
 */
export async function lockHome(tx: Transaction): Promise<{ id: number; name: string }> {
  const { rows } = await tx.query<{ id: number; name: string }>(
    'select id, name from organization where is_home for no key update',
  );
  return rows[0]!;
}

/** What somebody looks after, who stands in for them, and which teams they coordinate. */
const REACH = `
         coalesce((select json_agg(json_build_object('siteId', site_id, 'floor', floor, 'kind', kind, 'placeId', place_id))
                   from charge where person_id = subject.id), '[]') as reach,
         person.deputy_id as "deputyId",
         coalesce((select array_agg(team_id order by team_id) from coordination
                   where person_id = subject.id), '{}') as coordinates`;

const KEPT = `
  select subject.id, person.version, subject.name, person.email, person.job_title as "jobTitle",
         person.site_id as "siteId", person.zone, person.role, person.account,
         person.password_hash is not null as "hasPassword",
         coalesce((select array_agg(team_id order by team_id) from team_member
                   where person_id = subject.id), '{}') as teams,
         ${REACH}
  from person join subject on subject.id = person.subject_id
  join organization on organization.id = person.organization_id`;

/** People of the organization by their ids, held against other changes, in the order of their ids. */
export async function lockPeople(tx: Transaction, ids: readonly number[]): Promise<KeptPerson[]> {
  const { rows } = await tx.query<KeptPerson>(
    `${KEPT} where subject.id = any($1) and organization.is_home
     order by subject.id for no key update of person`,
    [ids],
  );
  return rows;
}

/** Whoever has some addresses, whatever they are here. */
export async function readByAddress(
  db: Database,
  emails: readonly string[],
): Promise<(KeptPerson & { isHome: boolean })[]> {
  const { rows } = await db.query<KeptPerson & { isHome: boolean }>(
    `${KEPT.replace('select ', 'select organization.is_home as "isHome", ')}
     where lower(person.email) = any($1)`,
    [emails.map(addressKey)],
  );
  return rows;
}

/** Adds people with the hours and settings that their site and organization give. @returns their ids, in order */
export async function insertPeople(
  tx: Transaction,
  organizationId: number,
  people: readonly NewPerson[],
): Promise<number[]> {
  if (people.length === 0) return [];
  const { rows } = await tx.query<{ id: number }>(
    `with new as (
       select * from jsonb_to_recordset($1) as new (
         place int, name text, email text, "jobTitle" text, "siteId" int, zone text, role text)
     ), numbered as (
       select nextval(pg_get_serial_sequence('subject', 'id'))::int as id, new.* from (select * from new order by place) new
     ), made as (
       insert into subject (id, kind, name) overriding system value
       select id, 'person', name from numbered
     ), somebody as (
       insert into person (subject_id, organization_id, site_id, email, job_title, zone, clock, role, account)
       select numbered.id, organization.id, "siteId", email, "jobTitle", numbered.zone, organization.clock, role, 'invited'
       from numbered join organization on organization.id = $2
     ), chosen as (
       insert into preference (person_id, first_weekday)
       select numbered.id, first_weekday from numbered join organization on organization.id = $2
       where first_weekday <> 1
     ), working as (
       insert into working_shift (person_id, weekday, start_minute, end_minute)
       select numbered.id, day.weekday, (shift->>'start')::int, (shift->>'end')::int
       from numbered
       left join site on site.id = "siteId"
       cross join jsonb_array_elements(coalesce(site.hours, ${USUAL_HOURS}))
         with ordinality as day (shifts, weekday)
       cross join jsonb_array_elements(day.shifts) as shift
     )
     select id from numbered order by place`,
    [
      JSON.stringify(people.map(({ teams: _teams, ...one }, place) => ({ place, ...one }))),
      organizationId,
    ],
  );
  return rows.map((row) => row.id);
}

/** Of whoever is at no site. */
const USUAL_HOURS = `(select jsonb_agg(case when weekday < 6 then '[{"start":540,"end":1020}]'::jsonb else '[]' end order by weekday)
                       from generate_series(1, 7) as weekday)`;

/** People as they are from now on. */
export function updatePeople(
  tx: Transaction,
  people: readonly Omit<
    KeptPerson,
    'version' | 'hasPassword' | 'teams' | 'reach' | 'coordinates'
  >[],
): void {
  if (people.length === 0) return;
  tx.send(
    `with new as (
       select * from jsonb_to_recordset($1) as new (
         id int, name text, email text, "jobTitle" text, "siteId" int, zone text, role text, account text,
         "deputyId" int)
     ), called as (
       update subject set name = new.name from new where subject.id = new.id and subject.name <> new.name
     )
     update person set email = new.email, job_title = new."jobTitle", site_id = new."siteId",
                       zone = new.zone, role = new.role, account = new.account,
                       deputy_id = new."deputyId", version = person.version + 1
     from new where person.subject_id = new.id`,
    [JSON.stringify(people)],
  );
}

/** Puts people into teams, and takes them out of all others. */
export function writeTeams(
  tx: Transaction,
  people: readonly { id: number; teams: readonly number[] }[],
): void {
  if (people.length === 0) return;
  const pairs = people.flatMap(({ id, teams }) => teams.map((team) => [id, team] as const));
  tx.send(
    `with wanted as (
       select * from unnest($2::int[], $3::int[]) as wanted (person_id, team_id)
     ), gone as (
       delete from team_member where person_id = any($1)
         and (person_id, team_id) not in (select person_id, team_id from wanted)
     )
     insert into team_member (person_id, team_id) select person_id, team_id from wanted
     on conflict do nothing`,
    [people.map(({ id }) => id), pairs.map(([id]) => id), pairs.map(([, team]) => team)],
  );
}

/** What people look after from now on, and which teams they coordinate. */
export function writeReach(
  tx: Transaction,
  people: readonly ({ id: number } & Pick<KeptPerson, 'reach' | 'coordinates'>)[],
): void {
  if (people.length === 0) return;
  const charges = people.flatMap(({ id, reach }) => reach.map((one) => ({ id, ...one })));
  const pairs = people.flatMap(({ id, coordinates }) => coordinates.map((team) => ({ id, team })));
  tx.send(
    `with gone as (delete from charge where person_id = any($1)),
     left_teams as (delete from coordination where person_id = any($1)
       and (person_id, team_id) not in (select id, team from jsonb_to_recordset($2) as kept (id int, team int)))
     insert into coordination (person_id, team_id)
     select id, team from jsonb_to_recordset($2) as new (id int, team int) on conflict do nothing`,
    [people.map(({ id }) => id), JSON.stringify(pairs)],
  );
  tx.send(
    `insert into charge (person_id, site_id, floor, kind, place_id)
     select id, "siteId", floor, kind, "placeId"
     from jsonb_to_recordset($1) as new (id int, "siteId" int, floor text, kind text, "placeId" int)`,
    [JSON.stringify(charges)],
  );
}

/** Whether somebody can sign in who administers the organization. */
export async function isAdministered(tx: Transaction): Promise<boolean> {
  const { rowCount } = await tx.query(
    `select from person join organization on organization.id = person.organization_id
     where organization.is_home and role = 'administrator' and account = 'active' limit 1`,
  );
  return rowCount === 1;
}

/** Things by their numbers, of which names are wanted. */
export interface NamedThings {
  sites?: readonly number[];
  teams?: readonly number[];
  places?: readonly number[];
  people?: readonly number[];
}

/** The names of things that are there, as `site 3` or `team 7`, by which a log says them. */
export async function readNames(
  db: Database,
  { sites = [], teams = [], places = [], people = [] }: NamedThings,
): Promise<Map<string, string>> {
  const { rows } = await db.query<{ key: string; name: string }>(
    `select 'site ' || id as key, name from site where id = any($1) and removed_at is null
     union all select 'team ' || id, name from team where id = any($2) and removed_at is null
     union all select 'place ' || subject.id, name from subject join resource on resource.subject_id = subject.id
               where subject.id = any($3)
     union all select 'person ' || subject.id, subject.name from subject
               join person on person.subject_id = subject.id
               join organization on organization.id = person.organization_id and organization.is_home
               where subject.id = any($4) and person.account not in ('ended', 'removed')`,
    [sites, teams, places, people],
  );
  return new Map(rows.map(({ key, name }) => [key, name]));
}

/** All who are here, as a file says them. */
export async function readAllPeople(db: Database): Promise<
  (Pick<KeptPerson, 'name' | 'email' | 'jobTitle' | 'zone' | 'role'> & {
    teams: string[];
    site: string | null;
  })[]
> {
  const { rows } = await db.query<
    Pick<KeptPerson, 'name' | 'email' | 'jobTitle' | 'zone' | 'role'> & {
      teams: string[];
      site: string | null;
    }
  >(
    `select subject.name, person.email, person.job_title as "jobTitle", person.zone, person.role,
            case when site.removed_at is null then site.name end as site,
            array(select team.name from team_member join team on team.id = team_member.team_id
                  where team_member.person_id = subject.id and team.removed_at is null
                  order by team.name) as teams
     from person join subject on subject.id = person.subject_id
     join organization on organization.id = person.organization_id and organization.is_home
     left join site on site.id = person.site_id
     where person.account not in ('ended', 'removed')
     order by lower(subject.name), subject.id limit ${MOST_IN_FILE}`,
  );
  return rows;
}

/** Somebody of the organization, whose access may have ended; null where there is nobody. */
export async function readStaffMember(
  db: Database,
  id: number,
): Promise<Pick<KeptPerson, 'id' | 'name' | 'version'> | null> {
  const { rows } = await db.query<Pick<KeptPerson, 'id' | 'name' | 'version'>>(
    `select subject.id, subject.name, person.version
     from person join subject on subject.id = person.subject_id
     join organization on organization.id = person.organization_id and organization.is_home
     where subject.id = $1 and person.account <> 'removed'`,
    [id],
  );
  return rows[0] ?? null;
}

/** The zone that most of its people have, for whoever says none. */
export async function readHomeZone(db: Database): Promise<string> {
  const { rows } = await db.query<{ zone: string }>(
    `select person.zone from person join organization on organization.id = person.organization_id
     where organization.is_home group by person.zone order by count(*) desc, person.zone limit 1`,
  );
  return rows[0]?.zone ?? 'UTC';
}

/** Lets somebody who was invited sign in. */
export function letSignIn(tx: Transaction, id: number): void {
  tx.send(
    `update person set account = 'active', version = version + 1
     where subject_id = $1 and account = 'invited'`,
    [id],
  );
}

/** Notes that somebody is to be forgotten, and has it done. */
export function askToForget(tx: Transaction, id: number, now: number): void {
  tx.send(
    `with asked as (update person set forget_at = $2, version = version + 1 where subject_id = $1)
     insert into job (kind, key) values ('${FORGET_JOB}', $1::text) on conflict (kind, key) do nothing`,
    [id, new Date(now)],
  );
}

/** The people of teams and of those teams' parts, by the team that was asked for. */
export async function readPeopleOfTeams(
  db: Database,
  teamIds: readonly number[],
): Promise<{ id: number; teamId: number }[]> {
  const { rows } = await db.query<{ id: number; teamId: number }>(
    `select distinct person.subject_id as id, asked.id as "teamId"
     from unnest($1::int[]) as asked (id)
     join team on asked.id in (team.id, team.parent_id) and team.removed_at is null
     join team_member on team_member.team_id = team.id
     join person on person.subject_id = team_member.person_id and person.account not in ('ended', 'removed')
     order by 1, 2 limit ${MOST_IN_FILE}`,
    [teamIds],
  );
  return rows;
}
