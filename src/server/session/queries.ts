import { addressKey } from '../../core/mailAddress.ts';
import type { DemonstrationList, Me } from '../../contract/session.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { actsOf } from '../access/index.ts';
import { isPresent } from '../people/index.ts';
import { LONGEST_BROWSER, MOST_COORDINATED, MOST_SESSIONS } from './limits.ts';

interface MeRow {
  id: number;
  name: string;
  email: string;
  role: Me['role'];
  zone: string;
  further_zones: string[];
  clock: Me['clock'];
  zone_names: Record<string, string>;
  site_id: number | null;
  site_name: string | null;
  acts_for: Me['actsFor'];
  coordinates: Me['coordinates'];
  keeps: number[] | null;
  seen_at?: number;
}

const meSql = (more: string) => `
  select subject.id, subject.name, person.email, person.role, person.zone,
         person.further_zones, person.clock, site.id as site_id, site.name as site_name,
         (select coalesce(json_object_agg(zone, city), '{}') from site where removed_at is null) as zone_names,
         coalesce((select json_agg(json_build_object('id', named.id, 'name', named.name)
                                   order by named.name, named.id)
                   from (select owner.subject_id as id from person owner
                         where (owner.share_organization = 'acts' or owner.share_partners = 'acts')
                           and owner.subject_id <> person.subject_id
                           and case when owner.organization_id = person.organization_id
                                    then owner.share_organization else owner.share_partners
                               end = 'acts'
                         union
                         select principal_id from delegate
                         where delegate_id = person.subject_id) principal
                   join subject named on named.id = principal.id), '[]') as acts_for,
         coalesce((select json_agg(json_build_object('id', id, 'name', name) order by name, id)
                   from (select named.id, named.name from coordinated
                         join subject named on named.id = coordinated.person_id
                         join person member on member.subject_id = named.id and ${isPresent('member')}
                         where coordinator_id = person.subject_id
                         order by named.name, named.id limit ${MOST_COORDINATED}) one), '[]') as coordinates,
         case when person.role = 'administrator' then null
              when exists (select from (select subject_id, role from person one
                                        where one.subject_id = person.subject_id
                                        union all select subject_id, role from person one
                                        where one.deputy_id = person.subject_id) steward
                           where steward.role = 'steward'
                             and not exists (select from charge where person_id = steward.subject_id)) then null
              else array(select place_id from keeper where steward_id = person.subject_id
                         union select place_id from keeper where deputy_id = person.subject_id) end as keeps
         ${more}
  from person
  join subject on subject.id = person.subject_id
  left join site on site.id = person.site_id`;

/** Who has a session, with those for whom they act; null when it is none, or over. */
export async function findSession(
  db: Database,
  tokenHash: Buffer,
  now: number,
): Promise<{ actor: PersonActor; seenAt: number } | null> {
  const { rows } = await db.query<MeRow>(
    `${meSql(', session.seen_at')} join session on session.person_id = person.subject_id
     where session.token_hash = $1 and session.expires_at > $2 and person.account = 'active'`,
    [tokenHash, new Date(now)],
  );
  const me = rows[0] && meOf(rows[0]);
  if (!me) return null;
  const principals = [me.id, ...me.actsFor.map((one) => one.id)];
  return { actor: { kind: 'person', me, principals, by: null }, seenAt: rows[0]!.seen_at! };
}

/** Somebody of this installation, as they are to themselves. */
export async function findMe(db: Database, personId: number): Promise<Me | null> {
  const { rows } = await db.query<MeRow>(`${meSql('')} where person.subject_id = $1`, [personId]);
  return rows[0] ? meOf(rows[0]) : null;
}

/** Whether two people are of the same organization. */
export async function areOfOneOrganization(
  db: Database,
  oneId: number,
  otherId: number,
): Promise<boolean> {
  const { rows } = await db.query(
    `select 1 from person one join person other using (organization_id)
     where one.subject_id = $1 and other.subject_id = $2`,
    [oneId, otherId],
  );
  return rows.length > 0;
}

const meOf = (row: MeRow): Me => ({
  id: row.id,
  name: row.name,
  email: row.email,
  role: row.role,
  acts: actsOf(row.role, row.keeps),
  keeps: row.keeps,
  coordinates: row.coordinates,
  zone: row.zone,
  furtherZones: row.further_zones,
  clock: row.clock,
  zoneNames: row.zone_names,
  siteId: row.site_id,
  siteName: row.site_name,
  actsFor: row.acts_for,
});

export async function findPassword(
  db: Database,
  email: string,
): Promise<{ personId: number; hash: string } | null> {
  const { rows } = await db.query<{ subject_id: number; password_hash: string }>(
    `select subject_id, password_hash from person
     where lower(email) = $1 and password_hash is not null and account = 'active'`,
    [addressKey(email)],
  );
  return rows[0] ? { personId: rows[0].subject_id, hash: rows[0].password_hash } : null;
}

export async function insertSession(
  tx: Transaction,
  session: {
    tokenHash: Buffer;
    personId: number;
    browser: string;
    now: number;
    expiresAt: number;
    /** Who vouched for them; null where they signed in by themselves. */
    by: { providerId: number; idToken: string } | null;
  },
): Promise<void> {
  await tx.query('delete from session where person_id = $1 and expires_at <= $2', [
    session.personId,
    new Date(session.now),
  ]);
  await tx.query(
    `insert into session (token_hash, person_id, browser, created_at, seen_at, expires_at, provider_id, id_token)
     values ($1, $2, $3, $4, $4, $5, $6, $7)`,
    [
      session.tokenHash,
      session.personId,
      session.browser.slice(0, LONGEST_BROWSER),
      new Date(session.now),
      new Date(session.expiresAt),
      session.by?.providerId ?? null,
      session.by?.idToken ?? null,
    ],
  );
  noteSeen(tx, session.tokenHash, session.now);
}

/** Notes that somebody uses Marmot, in one of their browsers. */
export function noteSeen(tx: Pick<Transaction, 'send'>, tokenHash: Buffer, now: number): void {
  tx.send(
    `with used as (
       update session set seen_at = $2 where token_hash = $1 returning person_id
     )
     update person set seen_at = $2 from used where subject_id = used.person_id`,
    [tokenHash, new Date(now)],
  );
}

/** A browser in which somebody is signed in. */
export interface SessionRow {
  id: number;
  tokenHash: Buffer;
  browser: string;
  createdAt: number;
  seenAt: number;
}

/** Where somebody is signed in, the last used first. */
export async function readSessions(
  db: Database,
  personId: number,
  now: number,
): Promise<SessionRow[]> {
  const { rows } = await db.query<SessionRow>(
    `select id, token_hash as "tokenHash", browser, created_at as "createdAt", seen_at as "seenAt"
     from session where person_id = $1 and expires_at > $2 order by seen_at desc, id limit ${MOST_SESSIONS}`,
    [personId, new Date(now)],
  );
  return rows;
}

/** Ends sessions of some people, all of them or all but one. @returns the hashes of their tokens */
export async function deleteSessionsOf(
  tx: Transaction,
  personIds: readonly number[],
  but: Buffer | null = null,
): Promise<Buffer[]> {
  const { rows } = await tx.query<{ hash: Buffer }>(
    `delete from session where person_id = any($1) and token_hash is distinct from $2
     returning token_hash as hash`,
    [personIds, but],
  );
  return rows.map((row) => row.hash);
}

/** Ends one session of somebody. @returns the hash of its token; null where it is none of theirs */
export async function deleteOwnSession(
  tx: Transaction,
  personId: number,
  id: number,
): Promise<Buffer | null> {
  const { rows } = await tx.query<{ hash: Buffer }>(
    'delete from session where person_id = $1 and id = $2 returning token_hash as hash',
    [personId, id],
  );
  return rows[0]?.hash ?? null;
}

/** Forgets sessions that are over. */
export async function forgetSessions(db: Database, now: number): Promise<void> {
  await db.query('delete from session where expires_at <= $1', [new Date(now)]);
}

export async function deleteSession(db: Database, tokenHash: Buffer): Promise<void> {
  await db.query('delete from session where token_hash = $1', [tokenHash]);
}

/** Whether somebody signed in from a device before. */
export async function knowsDevice(
  db: Database,
  tokenHash: Buffer,
  personId: number,
): Promise<boolean> {
  const { rowCount } = await db.query(
    'select from device where token_hash = $1 and person_id = $2',
    [tokenHash, personId],
  );
  return rowCount === 1;
}

export async function rememberDevice(
  tx: Transaction,
  { tokenHash, personId, now }: { tokenHash: Buffer; personId: number; now: number },
): Promise<void> {
  await tx.query(
    `insert into device (token_hash, person_id, seen_at) values ($1, $2, $3)
     on conflict (token_hash, person_id) do update set seen_at = excluded.seen_at`,
    [tokenHash, personId, new Date(now)],
  );
}

export async function organizationName(db: Database): Promise<string> {
  const { rows } = await db.query<{ name: string }>('select name from organization where is_home');
  return rows[0]?.name ?? 'Marmot';
}

/** Whether nobody can sign in. */
export async function nobodyThere(db: Database): Promise<boolean> {
  const { rowCount } = await db.query(`select from person where account = 'active' limit 1`);
  return rowCount === 0;
}

/** Whether this is the demonstration, whose password everybody knows. */
export async function isDemonstration(db: Database): Promise<boolean> {
  const { rowCount } = await db.query(`select from setting where key = 'demonstration'`);
  return rowCount === 1;
}

/** The demonstration's people and their password; null in any other installation. */
export async function demonstration(db: Database): Promise<DemonstrationList | null> {
  const { rows } = await db.query<{ value: { password: string } }>(
    `select value from setting where key = 'demonstration'`,
  );
  if (!rows[0]) return null;
  const people = await db.query<DemonstrationList['people'][number]>(
    `select subject.name, person.email, person.job_title as "jobTitle", site.city as site
     from person
     join subject on subject.id = person.subject_id
     join site on site.id = person.site_id
     where person.password_hash is not null
     order by site.id, subject.name`,
  );
  return { password: rows[0].value.password, people: people.rows };
}

/** Who vouched for whoever has a session; null where they signed in by themselves. */
export async function readVouched(
  db: Database,
  tokenHash: Buffer,
): Promise<{ providerId: number; idToken: string } | null> {
  const { rows } = await db.query<{ providerId: number; idToken: string }>(
    `select provider_id as "providerId", id_token as "idToken" from session
     where token_hash = $1 and provider_id is not null and id_token is not null`,
    [tokenHash],
  );
  return rows[0] ?? null;
}
