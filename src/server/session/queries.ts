import type { DemonstrationList, Me } from '../../contract/session.ts';
import type { Database, Transaction } from '../db/transaction.ts';

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
}

export async function findSession(
  db: Database,
  tokenHash: Buffer,
  now: number,
): Promise<Me | null> {
  const { rows } = await db.query<MeRow>(
    `select subject.id, subject.name, person.email, person.role, person.zone,
            person.further_zones, person.clock, site.id as site_id, site.name as site_name,
            (select coalesce(json_object_agg(zone, city), '{}') from site) as zone_names
     from session
     join person on person.subject_id = session.person_id
     join subject on subject.id = person.subject_id
     left join site on site.id = person.site_id
     where session.token_hash = $1 and session.expires_at > $2`,
    [tokenHash, new Date(now)],
  );
  const row = rows[0];
  if (!row) return null;
  return {
    id: row.id,
    name: row.name,
    email: row.email,
    role: row.role,
    zone: row.zone,
    furtherZones: row.further_zones,
    clock: row.clock,
    zoneNames: row.zone_names,
    siteId: row.site_id,
    siteName: row.site_name,
  };
}

export async function findPassword(
  db: Database,
  email: string,
): Promise<{ personId: number; hash: string } | null> {
  const { rows } = await db.query<{ subject_id: number; password_hash: string }>(
    `select subject_id, password_hash from person
     where lower(email) = lower($1) and password_hash is not null`,
    [email],
  );
  return rows[0] ? { personId: rows[0].subject_id, hash: rows[0].password_hash } : null;
}

export async function insertSession(
  tx: Transaction,
  session: { tokenHash: Buffer; personId: number; now: number; expiresAt: number },
): Promise<void> {
  await tx.query('delete from session where person_id = $1 and expires_at <= $2', [
    session.personId,
    new Date(session.now),
  ]);
  await tx.query(
    'insert into session (token_hash, person_id, created_at, expires_at) values ($1, $2, $3, $4)',
    [session.tokenHash, session.personId, new Date(session.now), new Date(session.expiresAt)],
  );
}

export async function deleteSession(db: Database, tokenHash: Buffer): Promise<void> {
  await db.query('delete from session where token_hash = $1', [tokenHash]);
}

export async function organizationName(db: Database): Promise<string> {
  const { rows } = await db.query<{ name: string }>('select name from organization where is_home');
  return rows[0]?.name ?? 'Marmot';
}

/** The demonstration's people and their password; null in any other installation. */
export async function demonstration(db: Database): Promise<DemonstrationList | null> {
  const { rows } = await db.query<{ value: { password: string } }>(
    `select value from setting where key = 'demonstration'`,
  );
  if (!rows[0]) return null;
  const people = await db.query<DemonstrationList['people'][number]>(
    `select subject.name, person.email, person.job_title as "jobTitle", site.city as site, person.role
     from person
     join subject on subject.id = person.subject_id
     join site on site.id = person.site_id
     where person.password_hash is not null
     order by site.id, subject.name`,
  );
  return { password: rows[0].value.password, people: people.rows };
}
