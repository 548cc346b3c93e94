import { addressKey } from '../../core/mailAddress.ts';
import type { NewProvider, Provider } from '../../contract/providers.ts';
import type { AccountState } from '../../core/people/personFacts.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** A provider with what it knows us by. */
export interface KeptProvider extends Omit<Provider, 'people'> {
  clientSecret: string;
}

const KEPT = `
  select id, version, name, issuer, client_id as "clientId", client_secret as "clientSecret", lets_in as "letsIn"
  from sign_in_provider where removed_at is null`;

export async function readProviders(db: Database): Promise<(KeptProvider & { people: number })[]> {
  const { rows } = await db.query<KeptProvider & { people: number }>(
    `select provider.*, (select count(*)::int from provider_identity where provider_id = provider.id) as people
     from (${KEPT}) provider order by name, id`,
  );
  return rows;
}

export async function readProvider(db: Database, id: number): Promise<KeptProvider | null> {
  const { rows } = await db.query<KeptProvider>(`${KEPT} and id = $1`, [id]);
  return rows[0] ?? null;
}

/** The provider, held against other changes until the transaction ends. */
export async function lockProvider(tx: Transaction, id: number): Promise<KeptProvider | null> {
  const { rows } = await tx.query<KeptProvider>(`${KEPT} and id = $1 for no key update`, [id]);
  return rows[0] ?? null;
}

/** @returns its id; null where the same one is there already */
export async function insertProvider(
  tx: Transaction,
  { name, issuer, clientId, clientSecret, letsIn }: NewProvider,
): Promise<number | null> {
  const { rows } = await tx.query<{ id: number }>(
    `insert into sign_in_provider (name, issuer, client_id, client_secret, lets_in)
     values ($1, $2, $3, $4, $5) on conflict do nothing returning id`,
    [name, issuer, clientId, clientSecret, letsIn],
  );
  return rows[0]?.id ?? null;
}

/** @returns false where the same one is there already */
export async function updateProvider(tx: Transaction, provider: KeptProvider): Promise<boolean> {
  const { rowCount } = await tx.query(
    `update sign_in_provider set name = $2, issuer = $3, client_id = $4, client_secret = $5, lets_in = $6,
                                 version = version + 1
     where id = $1 and not exists (select from sign_in_provider other
                                   where other.issuer = $3 and other.client_id = $4
                                     and other.id <> $1 and other.removed_at is null)`,
    [
      provider.id,
      provider.name,
      provider.issuer,
      provider.clientId,
      provider.clientSecret,
      provider.letsIn,
    ],
  );
  return rowCount === 1;
}

/** Removes a provider; whoever it vouched for is forgotten with it, since another may use their subjects. */
export function removeProvider(tx: Transaction, id: number, now: number): void {
  tx.send(
    `with gone as (delete from provider_identity where provider_id = $1),
          begun as (delete from sign_in_attempt where provider_id = $1)
     update sign_in_provider set removed_at = $2, client_secret = '' where id = $1`,
    [id, new Date(now)],
  );
}

/** Forgets whom a provider vouched for: at another issuer the same subject is somebody else. */
export function forgetIdentities(tx: Transaction, id: number): void {
  tx.send('delete from provider_identity where provider_id = $1', [id]);
}

/** What is kept of a browser that goes to a provider. */
export interface Attempt {
  providerId: number;
  nonce: string;
  verifier: string;
  leadsTo: string;
}

/** @returns false where too many are under way */
export async function insertAttempt(
  tx: Transaction,
  attempt: Attempt & { stateHash: Buffer; browserHash: Buffer; expiresAt: number },
  { now, most }: { now: number; most: number },
): Promise<boolean> {
  tx.send('delete from sign_in_attempt where expires_at <= $1', [new Date(now)]);
  const { rowCount } = await tx.query(
    `insert into sign_in_attempt (state_hash, provider_id, browser_hash, nonce, verifier, leads_to, expires_at)
     select $1, $2, $3, $4, $5, $6, $7 where (select count(*) from sign_in_attempt) < $8`,
    [
      attempt.stateHash,
      attempt.providerId,
      attempt.browserHash,
      attempt.nonce,
      attempt.verifier,
      attempt.leadsTo,
      new Date(attempt.expiresAt),
      most,
    ],
  );
  return rowCount === 1;
}

/** Takes an attempt, once and by the browser that began it; null where there is none, or it is over. */
export async function takeAttempt(
  tx: Transaction,
  stateHash: Buffer,
  browserHash: Buffer,
  now: number,
): Promise<Attempt | null> {
  const { rows } = await tx.query<Attempt>(
    `delete from sign_in_attempt
     where state_hash = $1 and browser_hash = $2 and expires_at > $3
     returning provider_id as "providerId", nonce, verifier, leads_to as "leadsTo"`,
    [stateHash, browserHash, new Date(now)],
  );
  return rows[0] ?? null;
}

/** Somebody who may be whom a provider vouches for. */
export interface Candidate {
  id: number;
  account: AccountState;
  isHome: boolean;
}

const CANDIDATE = `
  select person.subject_id as id, person.account, organization.is_home as "isHome"
  from person join organization on organization.id = person.organization_id`;

export async function findByIdentity(
  db: Database,
  providerId: number,
  subject: string,
): Promise<Candidate | null> {
  const { rows } = await db.query<Candidate>(
    `${CANDIDATE} join provider_identity on person_id = person.subject_id
     where provider_id = $1 and provider_identity.subject = $2`,
    [providerId, subject],
  );
  return rows[0] ?? null;
}

/** Whoever has an address, and whether the provider vouches for them by another subject already. */
export async function findByAddress(
  db: Database,
  providerId: number,
  email: string,
): Promise<(Candidate & { isJoined: boolean }) | null> {
  const { rows } = await db.query<Candidate & { isJoined: boolean }>(
    `${CANDIDATE.replace(
      'select ',
      `select exists (select from provider_identity
                      where person_id = person.subject_id and provider_id = $1) as "isJoined", `,
    )} where lower(person.email) = $2`,
    [providerId, addressKey(email)],
  );
  return rows[0] ?? null;
}

/** @returns false where the subject is somebody's already */
export async function insertIdentity(
  tx: Transaction,
  providerId: number,
  subject: string,
  personId: number,
  now: number,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `insert into provider_identity (provider_id, subject, person_id, since)
     values ($1, $2, $3, $4) on conflict do nothing`,
    [providerId, subject, personId, new Date(now)],
  );
  return rowCount === 1;
}
