import type { Person, Team } from '../../contract/people.ts';
import type { Shift } from '../../core/time/workingHours.ts';
import type { Database } from '../db/transaction.ts';

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

/** Everyone with a sharing relation to the viewer's installation: its own people and the partners'. */
export async function readPeople(db: Database): Promise<Omit<Person, 'hours'>[]> {
  const { rows } = await db.query<Omit<Person, 'hours'>>(
    `select subject.id, subject.name, person.email, person.job_title as "jobTitle", person.zone,
            site.name as site, organization.name as organization,
            not organization.is_home as "isPartner",
            coalesce(
              (select array_agg(team.name order by team.name)
               from team_member join team on team.id = team_member.team_id
               where team_member.person_id = person.subject_id), '{}') as teams
     from person
     join subject on subject.id = person.subject_id
     join organization on organization.id = person.organization_id
     left join site on site.id = person.site_id
     order by subject.name`,
  );
  return rows;
}

export async function readTeams(db: Database): Promise<Team[]> {
  const { rows } = await db.query<Team>(
    `select team.id, team.name,
            coalesce(array_agg(team_member.person_id) filter (where team_member.person_id is not null), '{}')
              as "memberIds"
     from team left join team_member on team_member.team_id = team.id
     group by team.id order by team.name`,
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
}

/** People by their ids or their addresses; those that are nobody's are missing. */
export async function findContacts(
  db: Database,
  { ids = [], emails = [] }: { ids?: readonly number[]; emails?: readonly string[] },
): Promise<Contact[]> {
  const { rows } = await db.query<Contact>(
    `select subject.id, subject.name, person.email, person.zone, person.clock
     from person join subject on subject.id = person.subject_id
     where person.subject_id = any($1) or lower(person.email) = any($2)`,
    [ids, emails.map((email) => email.toLowerCase())],
  );
  return rows;
}
