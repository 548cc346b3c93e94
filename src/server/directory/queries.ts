import { addressKey } from '../../core/mailAddress.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** Somebody as the directory sees them. */
export interface DirectoryPerson {
  id: number;
  externalId: string | null;
  /** The name that the directory gives them; null where it is their mail address. */
  userName: string | null;
  name: string;
  email: string;
  jobTitle: string;
  zone: string;
  isActive: boolean;
  teams: { id: number; name: string }[];
}

export interface DirectoryTeam {
  id: number;
  externalId: string | null;
  name: string;
  members: { id: number; name: string }[];
}

/** Which are wanted, where that is said by one value. */
export interface Wanted {
  id?: number;
  key?: string;
  externalId?: string;
}

export async function readDirectoryPeople(
  db: Database,
  { id, key, externalId }: Wanted,
  most: number,
): Promise<DirectoryPerson[]> {
  const { rows } = await db.query<DirectoryPerson>(
    `select subject.id, person.external_id as "externalId", person.user_name as "userName",
            subject.name, person.email,
            person.job_title as "jobTitle", person.zone, person.account <> 'ended' as "isActive",
            coalesce((select json_agg(json_build_object('id', team.id, 'name', team.name) order by team.id)
                      from team_member join team on team.id = team_member.team_id
                      where person_id = subject.id and team.removed_at is null), '[]') as teams
     from person join subject on subject.id = person.subject_id
     join organization on organization.id = person.organization_id and organization.is_home
     where person.account <> 'removed' and not person.is_unlisted
       and ($1::int is null or subject.id = $1) and ($2::text is null or lower(coalesce(person.user_name, person.email)) = $2)
       and ($3::text is null or person.external_id = $3)
     order by subject.id limit $4`,
    [id ?? null, key === undefined ? null : addressKey(key), externalId ?? null, most],
  );
  return rows;
}

export async function readDirectoryTeams(
  db: Database,
  { id, key, externalId }: Wanted,
  most: number,
): Promise<DirectoryTeam[]> {
  const { rows } = await db.query<DirectoryTeam>(
    `select team.id, team.external_id as "externalId", team.name,
            coalesce((select json_agg(json_build_object('id', subject.id, 'name', subject.name) order by subject.id)
                      from team_member join subject on subject.id = person_id
                      join person on person.subject_id = subject.id
                      where team_id = team.id and person.account <> 'removed' and not person.is_unlisted), '[]') as members
     from team join organization on organization.id = team.organization_id and organization.is_home
     where team.removed_at is null
       and ($1::int is null or team.id = $1) and ($2::text is null or lower(team.name) = lower($2))
       and ($3::text is null or team.external_id = $3)
     order by team.id limit $4`,
    [id ?? null, key ?? null, externalId ?? null, most],
  );
  return rows;
}

/** Somebody whom the directory deleted and who has an address, to be the same person again. */
export async function readUnlisted(
  tx: Transaction,
  email: string,
): Promise<{ id: number; version: number } | null> {
  const { rows } = await tx.query<{ id: number; version: number }>(
    `select subject_id as id, person.version from person
     join organization on organization.id = organization_id and is_home
     where lower(email) = $1 and is_unlisted and account = 'ended'`,
    [addressKey(email)],
  );
  return rows[0] ?? null;
}

/** The version by which somebody, or a team, is changed. */
export async function readVersion(
  tx: Transaction,
  table: 'person' | 'team',
  id: number,
): Promise<number> {
  const { rows } = await tx.query<{ version: number }>(
    table === 'person'
      ? 'select version from person where subject_id = $1'
      : 'select version from team where id = $1',
    [id],
  );
  return rows[0]!.version;
}

/** @returns false where somebody else has that name */
export async function writeUserName(
  tx: Transaction,
  id: number,
  userName: string | null,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `update person set user_name = $2 where subject_id = $1
       and not exists (select from person other where other.subject_id <> $1 and not other.is_unlisted
                         and lower(other.user_name) = lower($2::text))`,
    [id, userName],
  );
  return rowCount === 1;
}

export function writeExternalId(
  tx: Transaction,
  table: 'person' | 'team',
  id: number,
  externalId: string | null,
): void {
  tx.send(
    table === 'person'
      ? 'update person set external_id = $2 where subject_id = $1'
      : 'update team set external_id = $2 where id = $1',
    [id, externalId],
  );
}

export function writeUnlisted(tx: Transaction, id: number, isUnlisted: boolean): void {
  tx.send('update person set is_unlisted = $2 where subject_id = $1', [id, isUnlisted]);
}

/** Whether there is a way to sign in besides a password, so that nobody needs a letter to come. */
export async function hasProviders(db: Database): Promise<boolean> {
  const { rowCount } = await db.query(
    'select from sign_in_provider where removed_at is null limit 1',
  );
  return rowCount === 1;
}

export interface Token {
  madeAt: number;
  usedAt: number | null;
}

export async function readToken(db: Database): Promise<Token | null> {
  const { rows } = await db.query<Token>(
    'select made_at as "madeAt", used_at as "usedAt" from directory_token',
  );
  return rows[0] ?? null;
}

/** When a token was last used, where it is the one; null where it is not. */
export async function findToken(db: Database, hash: Buffer): Promise<Token | null> {
  const { rows } = await db.query<Token>(
    'select made_at as "madeAt", used_at as "usedAt" from directory_token where hash = $1',
    [hash],
  );
  return rows[0] ?? null;
}

export function keepToken(tx: Transaction, hash: Buffer, now: number): void {
  tx.send(
    `insert into directory_token (hash, made_at) values ($1, $2)
     on conflict (is_one) do update set hash = excluded.hash, made_at = excluded.made_at, used_at = null`,
    [hash, new Date(now)],
  );
}

export function dropToken(tx: Transaction): void {
  tx.send('delete from directory_token', []);
}

export function noteUsed(tx: Transaction, now: number): void {
  tx.send('update directory_token set used_at = $1', [new Date(now)]);
}
