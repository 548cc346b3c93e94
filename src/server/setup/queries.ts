import type { SetupRequest } from '../../contract/setup.ts';
import type { Database, Transaction } from '../db/transaction.ts';

const LINK = 'setup';

/** Keeps the hash of the one link that is valid. */
export async function keepLink(db: Database, hash: string, expiresAt: number): Promise<void> {
  await db.query(
    `insert into setting (key, value) values ($1, $2)
     on conflict (key) do update set value = excluded.value`,
    [LINK, JSON.stringify({ hash, expiresAt })],
  );
}

/** The link's hash and end, locked until the transaction ends. */
export async function lockLink(
  tx: Transaction,
): Promise<{ hash: string; expiresAt: number } | null> {
  const { rows } = await tx.query<{ value: { hash: string; expiresAt: number } }>(
    'select value from setting where key = $1 for update',
    [LINK],
  );
  return rows[0]?.value ?? null;
}

export async function forgetLink(tx: Transaction): Promise<void> {
  await tx.query('delete from setting where key = $1', [LINK]);
}

/** Makes the organization, its site and its administrator, in one statement. @returns the administrator’s id */
export async function insertAdministrator(
  tx: Transaction,
  { organization, city, zone, name, email }: SetupRequest,
  passwordHash: string,
): Promise<number> {
  const { rows } = await tx.query<{ id: number }>(
    `with home as (
       insert into organization (name, is_home) values ($1, true) returning id
     ), office as (
       insert into site (organization_id, name, city, zone)
       select id, $2, $2, $3 from home returning id, organization_id, hours
     ), somebody as (
       insert into subject (kind, name) values ('person', $4) returning id
     ), working as (
       insert into working_shift (person_id, weekday, start_minute, end_minute)
       select somebody.id, day.weekday, (shift->>'start')::int, (shift->>'end')::int
       from somebody, office
       cross join jsonb_array_elements(office.hours) with ordinality as day (shifts, weekday)
       cross join jsonb_array_elements(day.shifts) as shift
     )
     insert into person (subject_id, organization_id, site_id, email, zone, role, password_hash, account)
     select somebody.id, office.organization_id, office.id, $5, $3, 'administrator', $6, 'active'
     from somebody, office
     returning subject_id as id`,
    [organization, city, zone, name, email, passwordHash],
  );
  return rows[0]!.id;
}
