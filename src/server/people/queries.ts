import { addressKey } from '../../core/mailAddress.ts';
import type { PeopleQuery, Person, Team } from '../../contract/people.ts';
import type { Shift } from '../../core/time/workingHours.ts';
import { holding, holdsAlike } from '../db/like.ts';
import type { DeliveryPreference, NoticeKind } from '../../core/meetings/notices.ts';
import type { Database } from '../db/transaction.ts';
import { rolesThatMay } from '../access/index.ts';
import { MOST_STEWARDS } from './limits.ts';

interface ShiftRow {
  person_id: number;
  weekday: number;
  start_minute: number;
  end_minute: number;
}

/** Working hours by person, Monday first; people without any have seven empty days. */
export async function readHours(
  db: Database,
  personIds: readonly number[],
): Promise<Map<number, Shift[][]>> {
  const { rows } = await db.query<ShiftRow>(
    `select person_id, weekday, start_minute, end_minute from working_shift
     where person_id = any($1) order by person_id, weekday, start_minute`,
    [personIds],
  );
  const hours = new Map<number, Shift[][]>();
  for (const id of personIds) hours.set(id, [[], [], [], [], [], [], []]);
  for (const row of rows) {
    hours.get(row.person_id)![row.weekday - 1]!.push({
      start: row.start_minute,
      end: row.end_minute,
    });
  }
  return hours;
}

/** Whether somebody can be met and asked, in SQL: not those whose access ended, and not those taken back. */
export const isPresent = (person: string): string =>
  `${person}.account not in ('ended', 'removed')`;

/** What of somebody is looked through for words: name, work, site and its city, organization, teams. */
const LISTED = `
  select subject.id, subject.name, person.email, person.job_title, person.zone,
         site.name as site, site.city, organization.name as organization, organization.is_home,
         coalesce(person.site_id = reader.site_id, false) as near, member.teams
  from person
  join subject on subject.id = person.subject_id
  join organization on organization.id = person.organization_id
  left join site on site.id = person.site_id
  left join person reader on reader.subject_id = $1
  cross join lateral (
    select coalesce(array_agg(team.name order by team.name), '{}') as teams
    from team_member join team on team.id = team_member.team_id
    where team_member.person_id = person.subject_id) member
  where ${isPresent('person')}`;
const WORDS = `concat_ws(' ', name, job_title, coalesce(site, organization), city, array_to_string(teams, ' '))`;

/** How words are looked for: as they are typed, or with mistakes forgiven. */
export type Spelling = 'as typed' | 'alike';

const HOLDS: Record<Spelling, string> = {
  'as typed': `${WORDS} ilike $2`,
  alike: holdsAlike('$2', WORDS),
};
const wordsOf = (q: string, spelling: Spelling) => (spelling === 'alike' ? q : holding(q));

/** In which order they stand; the last part makes it one of a kind. */
const ORDER = `not near, coalesce(site, organization), name, id`;

/**
 * Everyone with a sharing relation to the reader's installation, its own people and the partners', a
 * part at a time: the reader's own site first, then by site and name.
 */
export async function readPeople(
  db: Database,
  readerId: number,
  { q, after, limit }: PeopleQuery,
  spelling: Spelling,
): Promise<Omit<Person, 'hours'>[]> {
  const { rows } = await db.query<Omit<Person, 'hours'>>(
    `with listed as materialized (${LISTED})
     select id, name, email, job_title as "jobTitle", zone, site, organization,
            not is_home as "isPartner", teams
     from listed
     where ${HOLDS[spelling]}
       and ($3::int is null or (${ORDER}) > (select ${ORDER} from listed where id = $3))
     order by ${ORDER} limit $4`,
    [readerId, wordsOf(q, spelling), after ?? null, limit],
  );
  return rows;
}

/** How many people hold some words. */
export async function countPeople(db: Database, q: string, spelling: Spelling): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    `with listed as (${LISTED}) select count(*) as count from listed where ${HOLDS[spelling]}`,
    [null, wordsOf(q, spelling)],
  );
  return rows[0]!.count;
}

/** Teams whose name holds some words. */
export async function readDirectoryTeams(db: Database, q: string): Promise<Team[]> {
  const { rows } = await db.query<Team>(
    `select team.id, team.name,
            coalesce(array_agg(team_member.person_id) filter (where team_member.person_id is not null), '{}')
              as "memberIds"
     from team
     left join (team_member join person on person.subject_id = team_member.person_id
                                       and ${isPresent('person')}) on team_member.team_id = team.id
     where team.name ilike $1 and team.removed_at is null
     group by team.id order by team.name`,
    [holding(q)],
  );
  return rows;
}

/** How somebody of this installation is reached. */
export interface Contact {
  id: number;
  name: string;
  email: string;
  zone: string;
  clock: '24' | '12';
  /** How they hear of each kind of news, where it is not at once. */
  hearing: Partial<Record<NoticeKind, DeliveryPreference>>;
  /** Whether they can sign in here; partners often cannot. */
  hasAccount: boolean;
  /** Whether they are of the organization whose installation this is, and not a partner's. */
  isHome: boolean;
}

/**
 * Who is asked about places, by their numbers: the stewards who look after them, and in the place of one who is away
 * or signs in no more, who stands in for them; where there is nobody like that, whoever administers the organization.
 * @param now epoch milliseconds
 */
export async function readStewards(
  db: Database,
  placeIds: readonly number[],
  now: number,
): Promise<Map<number, number[]>> {
  const { rows } = await db.query<{ placeId: number; ids: number[] }>(
    `with asked as (
       select place_id, case when away then coalesce(deputy.subject_id, steward.subject_id)
                             else steward.subject_id end as person_id
       from keeper
       join person steward on steward.subject_id = steward_id
       left join person deputy on deputy.subject_id = keeper.deputy_id and ${isPresent('deputy')}
       cross join lateral (
         select not (${isPresent('steward')}) or exists (
           select from claim where claim.subject_id = steward_id and claim.occupancy = 'away'
             and claim.during @> $2::timestamptz) as away) standing
       where place_id = any ($1) and (${isPresent('steward')} or deputy.subject_id is not null)
     )
     select place_id as "placeId", (array_agg(distinct person_id order by person_id))[:${MOST_STEWARDS}] as ids
     from (select place_id, person_id from asked
           union all
           select place_id, subject_id from person cross join unnest($1::int[]) as place_id
           where role = any ($3) and ${isPresent('person')} and place_id not in (select place_id from asked)) one
     group by place_id`,
    [placeIds, new Date(now), rolesThatMay('administer')],
  );
  return new Map(rows.map(({ placeId, ids }) => [placeId, ids]));
}

/** People by their ids or their addresses; those that are nobody's are missing. */
export async function findContacts(
  db: Database,
  { ids = [], emails = [] }: { ids?: readonly number[]; emails?: readonly string[] },
): Promise<Contact[]> {
  const { rows } = await db.query<Contact>(
    `select subject.id, subject.name, person.email, person.zone, person.clock,
            coalesce(preference.hearing, '{}') as hearing,
            person.account = 'active' as "hasAccount", organization.is_home as "isHome"
     from person join subject on subject.id = person.subject_id
     join organization on organization.id = person.organization_id
     left join preference on preference.person_id = person.subject_id
     where person.subject_id = any($1) or lower(person.email) = any($2)`,
    [ids, emails.map((email) => addressKey(email))],
  );
  return rows;
}
