import { addressKey } from '../../core/mailAddress.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { FORGOTTEN_JOB } from './jobs.ts';

export type LinkPurpose = 'welcome' | 'password';

/** Whom a link is for. */
export interface LinkRow {
  personId: number;
  purpose: LinkPurpose;
  name: string;
  email: string;
  zone: string;
  organization: string;
}

/** Keeps the hashes of links, in one statement; earlier ones of the same people are good no more. */
export function keepLinks(
  tx: Transaction,
  links: readonly { personId: number; hash: Buffer }[],
  purpose: LinkPurpose,
  now: number,
  expiresAt: number,
): void {
  tx.send(
    `with gone as (
       delete from account_link where person_id = any($1)
     )
     insert into account_link (token_hash, person_id, purpose, created_at, expires_at)
     select hash, person_id, $3, $4, $5 from unnest($2::bytea[], $1::int[]) as new (hash, person_id)`,
    [
      links.map((link) => link.personId),
      links.map((link) => link.hash),
      purpose,
      new Date(now),
      new Date(expiresAt),
    ],
  );
}

/** Ends the links of some people. */
export function dropLinks(tx: Transaction, personIds: readonly number[]): void {
  tx.send('delete from account_link where person_id = any($1)', [personIds]);
}

const LINK = `
  select link.person_id as "personId", link.purpose, subject.name, person.email, person.zone,
         organization.name as organization
  from account_link link
  join person on person.subject_id = link.person_id
    and person.account = case link.purpose when 'welcome' then 'invited' else 'active' end
  join subject on subject.id = link.person_id
  join organization on organization.id = person.organization_id
  where link.token_hash = $1 and link.expires_at > $2`;

/** Whom a link is for; null where it is none, was used, or is over. */
export async function readLink(db: Database, hash: Buffer, now: number): Promise<LinkRow | null> {
  const { rows } = await db.query<LinkRow>(LINK, [hash, new Date(now)]);
  return rows[0] ?? null;
}

/** The same, and held until the transaction ends, so that it is used once. */
export async function lockLink(
  tx: Transaction,
  hash: Buffer,
  now: number,
): Promise<LinkRow | null> {
  const { rows } = await tx.query<LinkRow>(`${LINK} for update of link, person`, [
    hash,
    new Date(now),
  ]);
  return rows[0] ?? null;
}

/** Gives somebody a password, and lets them in. */
export function writePassword(
  tx: Transaction,
  personId: number,
  passwordHash: string,
  zone: string | null,
): void {
  tx.send(
    `update person set password_hash = $2, account = 'active', zone = coalesce($3, zone),
                       version = version + 1
     where subject_id = $1`,
    [personId, passwordHash, zone],
  );
}

/** Forgets from which devices somebody is known, whose guesses did not count there. */
export function forgetDevices(tx: Transaction, personId: number): void {
  tx.send('delete from device where person_id = $1', [personId]);
}

/** Who has an address and can sign in with a password, or was invited to. */
export async function findAccount(
  db: Database,
  email: string,
): Promise<{ id: number; name: string; email: string; account: string } | null> {
  const { rows } = await db.query<{ id: number; name: string; email: string; account: string }>(
    `select subject.id, subject.name, person.email, person.account
     from person join subject on subject.id = person.subject_id
     where lower(person.email) = $1 and person.account in ('active', 'invited')`,
    [addressKey(email)],
  );
  return rows[0] ?? null;
}

/** How many letters for another password somebody got since an instant. */
export async function countPasswordLetters(
  db: Database,
  personId: number,
  since: number,
): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    `select count(*) as count from mail
     where person_id = $1 and purpose = 'password' and created_at > $2`,
    [personId, new Date(since)],
  );
  return rows[0]!.count;
}

/** The hash of somebody's password; null where they have none. */
export async function readPassword(db: Database, personId: number): Promise<string | null> {
  const { rows } = await db.query<{ hash: string | null }>(
    'select password_hash as hash from person where subject_id = $1',
    [personId],
  );
  return rows[0]?.hash ?? null;
}

/** Lets the server look up, behind the answer, whose address it is: as much work for anybody's. */
export function askForgotten(tx: Transaction, email: string): void {
  tx.send(
    `insert into job (kind, key) values ('${FORGOTTEN_JOB}', $1) on conflict (kind, key) do nothing`,
    [addressKey(email)],
  );
}

/** Forgets links that are over. */
export async function forgetLinks(db: Database, now: number): Promise<void> {
  await db.query('delete from account_link where expires_at <= $1', [new Date(now)]);
}

export function dropPassword(tx: Transaction, personId: number): void {
  tx.send('update person set password_hash = null where subject_id = $1', [personId]);
}
