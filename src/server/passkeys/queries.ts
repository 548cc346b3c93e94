import type { Passkey } from '../../contract/passkeys.ts';
import type { Database, Transaction } from '../db/transaction.ts';

export async function readPasskeys(db: Database, personId: number): Promise<Passkey[]> {
  const { rows } = await db.query<Passkey>(
    `select id, name, created_at as "createdAt", used_at as "usedAt" from passkey
     where person_id = $1 order by created_at, id`,
    [personId],
  );
  return rows;
}

/** Names of somebody's keys by which devices know them. */
export async function readCredentials(
  db: Database,
  personId: number,
): Promise<{ id: string; transports: string[] }[]> {
  const { rows } = await db.query<{ id: string; transports: string[] }>(
    'select credential_id as id, transports from passkey where person_id = $1 order by id',
    [personId],
  );
  return rows;
}

/** @returns its id; null where the device is known already, or there are too many */
export async function insertPasskey(
  tx: Transaction,
  key: {
    credentialId: string;
    personId: number;
    publicKey: Uint8Array;
    counter: number;
    transports: readonly string[];
    name: string;
    now: number;
  },
  most: number,
): Promise<number | null> {
  tx.send('select from person where subject_id = $1 for no key update', [key.personId]);
  const { rows } = await tx.query<{ id: number }>(
    `insert into passkey (credential_id, person_id, public_key, counter, transports, name, created_at)
     select $1, $2, $3, $4, $5, $6, $7
     where (select count(*) from passkey where person_id = $2) < $8
     on conflict do nothing returning id`,
    [
      key.credentialId,
      key.personId,
      Buffer.from(key.publicKey),
      key.counter,
      key.transports,
      key.name,
      new Date(key.now),
      most,
    ],
  );
  return rows[0]?.id ?? null;
}

/** A key with whose it is, held until the transaction ends; null where nobody who can sign in has it. */
export async function lockCredential(
  tx: Transaction,
  credentialId: string,
): Promise<{ id: number; personId: number; publicKey: Buffer; counter: number } | null> {
  const { rows } = await tx.query<{
    id: number;
    personId: number;
    publicKey: Buffer;
    counter: string;
  }>(
    `select passkey.id, person_id as "personId", public_key as "publicKey", counter
     from passkey join person on person.subject_id = person_id
     where credential_id = $1 and person.account = 'active' for update of passkey`,
    [credentialId],
  );
  return rows[0] ? { ...rows[0], counter: Number(rows[0].counter) } : null;
}

export function noteUsed(tx: Transaction, id: number, counter: number, now: number): void {
  tx.send('update passkey set counter = $2, used_at = $3 where id = $1', [
    id,
    counter,
    new Date(now),
  ]);
}

/** @returns whether it is one of theirs */
export async function renamePasskey(
  tx: Transaction,
  personId: number,
  id: number,
  name: string,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    'update passkey set name = $3 where id = $2 and person_id = $1',
    [personId, id, name],
  );
  return rowCount === 1;
}

/** Removes one of somebody's, who then still has another way in. @returns what there was */
export async function deletePasskey(
  tx: Transaction,
  personId: number,
  id: number,
): Promise<'removed' | 'none' | 'last'> {
  tx.send('select from person where subject_id = $1 for no key update', [personId]);
  const { rows } = await tx.query<{ theirs: boolean; others: number; hasPassword: boolean }>(
    `select coalesce(bool_or(passkey.id = $2), false) as theirs,
            count(*) filter (where passkey.id <> $2)::int as others,
            coalesce(bool_or(person.password_hash is not null), false) as "hasPassword"
     from passkey join person on person.subject_id = person_id where person_id = $1`,
    [personId, id],
  );
  const { theirs, others, hasPassword } = rows[0]!;
  if (!theirs) return 'none';
  if (others === 0 && !hasPassword) return 'last';
  tx.send('delete from passkey where id = $1', [id]);
  return 'removed';
}

export async function keepChallenge(
  tx: Transaction,
  {
    challenge,
    personId,
    expiresAt,
  }: { challenge: string; personId: number | null; expiresAt: number },
  { now, most }: { now: number; most: number },
): Promise<boolean> {
  tx.send('delete from passkey_challenge where expires_at <= $1', [new Date(now)]);
  const { rowCount } = await tx.query(
    `insert into passkey_challenge (challenge, person_id, expires_at)
     select $1, $2, $3 where (select count(*) from passkey_challenge) < $4`,
    [challenge, personId, new Date(expiresAt), most],
  );
  return rowCount === 1;
}

/** Takes a challenge, once. @returns whether there was one for that person, or for nobody known */
export async function takeChallenge(
  tx: Transaction,
  challenge: string,
  personId: number | null,
  now: number,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `delete from passkey_challenge
     where challenge = $1 and person_id is not distinct from $2 and expires_at > $3`,
    [challenge, personId, new Date(now)],
  );
  return rowCount === 1;
}
