import type { TeamDetail } from '../../contract/administration.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** A team as it is kept. */
export interface KeptTeam {
  id: number;
  version: number;
  name: string;
  leadId: number | null;
  parentId: number | null;
  members: number[];
  isRemoved: boolean;
}

/** The teams of the organization by name. */
export async function readTeams(db: Database): Promise<TeamDetail[]> {
  const { rows } = await db.query<TeamDetail>(
    `select team.id, team.version, team.name,
            case when lead.id is not null
                 then json_build_object('id', lead.id, 'name', lead.name) end as lead,
            case when parent.id is not null
                 then json_build_object('id', parent.id, 'name', parent.name) end as parent,
            (select count(*) from team_member join person on person.subject_id = team_member.person_id
             where team_id = team.id and person.account not in ('ended', 'removed')) as members
     from team join organization on organization.id = team.organization_id
     left join subject lead on lead.id = team.lead_id
     left join team parent on parent.id = team.parent_id and parent.removed_at is null
     where organization.is_home and team.removed_at is null
     order by coalesce(parent.name, team.name), parent.id is not null, team.name`,
  );
  return rows;
}

/** A team of the organization, held against other changes; null where it is none, removed ones too. */
export async function lockTeam(tx: Transaction, id: number): Promise<KeptTeam | null> {
  await tx.query('select from team where id = $1 for no key update', [id]);
  const { rows } = await tx.query<KeptTeam>(
    `select team.id, team.version, team.name, lead_id as "leadId", parent_id as "parentId",
            team.removed_at is not null as "isRemoved",
            coalesce((select array_agg(person_id order by person_id) from team_member
                      where team_id = team.id), '{}') as members
     from team join organization on organization.id = team.organization_id
     where organization.is_home and team.id = $1`,
    [id],
  );
  return rows[0] ?? null;
}

/** Whether another team of the organization has a name. */
export async function isTeamName(
  tx: Transaction,
  name: string,
  but: number | null,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `select from team join organization on organization.id = team.organization_id
     where organization.is_home and team.removed_at is null and lower(team.name) = lower($1)
       and team.id is distinct from $2`,
    [name, but],
  );
  return rowCount !== 0;
}

/** Whether a team is a part of another, and whether others are parts of it. */
export async function readKin(
  tx: Transaction,
  id: number,
): Promise<{ isThere: boolean; isPart: boolean; hasParts: boolean }> {
  const { rows } = await tx.query<{ isThere: boolean; isPart: boolean; hasParts: boolean }>(
    `select true as "isThere", team.parent_id is not null as "isPart",
            exists (select from team part where part.parent_id = team.id and part.removed_at is null) as "hasParts"
     from team join organization on organization.id = team.organization_id
     where organization.is_home and team.id = $1 and team.removed_at is null`,
    [id],
  );
  return rows[0] ?? { isThere: false, isPart: false, hasParts: false };
}

export async function insertTeam(
  tx: Transaction,
  organizationId: number,
  name: string,
  parentId: number | null,
): Promise<number> {
  const { rows } = await tx.query<{ id: number }>(
    'insert into team (organization_id, name, parent_id) values ($1, $2, $3) returning id',
    [organizationId, name, parentId],
  );
  return rows[0]!.id;
}

export function updateTeam(tx: Transaction, team: KeptTeam, now: number): void {
  tx.send(
    `with changed as (
       update team set name = $2, lead_id = $3, parent_id = $4, version = version + 1,
                       removed_at = case when $5 then coalesce(removed_at, $6) end
       where id = $1
     ), gone as (
       delete from team_member where team_id = $1 and person_id <> all($7::int[])
     )
     insert into team_member (team_id, person_id)
     select $1, subject_id from person where subject_id = any($7::int[])
     on conflict do nothing`,
    [team.id, team.name, team.leadId, team.parentId, team.isRemoved, new Date(now), team.members],
  );
}

/** The names of people and teams, `person 3` or `team 7`, by which a log says them. */
export async function readTeamWords(
  db: Database,
  people: readonly number[],
  teams: readonly number[],
): Promise<Map<string, string>> {
  const { rows } = await db.query<{ key: string; name: string }>(
    `select 'person ' || id as key, name from subject where id = any($1) and kind = 'person'
     union all select 'team ' || id, name from team where id = any($2)`,
    [people, teams],
  );
  return new Map(rows.map(({ key, name }) => [key, name]));
}
