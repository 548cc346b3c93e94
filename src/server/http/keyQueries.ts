import type { Database, Transaction } from '../db/transaction.ts';
import type { Again } from './idempotency.ts';
import { ANSWER_KEPT_HOURS } from './limits.ts';

/** What is kept of an earlier request under a key. */
export interface Kept {
  requestHash: Buffer;
  status: number;
  body: unknown;
  again: Again | null;
  packed: Buffer | null;
}

/**
 * Takes a key for this transaction; one that holds the same key at this moment is waited for.
 * @returns whether it was nobody's before
 */
export async function insertKey(
  tx: Transaction,
  personId: number,
  key: string,
  requestHash: Buffer,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `insert into idempotency_key (person_id, key, request_hash) values ($1, $2, $3)
     on conflict do nothing`,
    [personId, key, requestHash],
  );
  return rowCount === 1;
}

/** What is kept under a key that is there. */
export async function readKept(tx: Transaction, personId: number, key: string): Promise<Kept> {
  const { rows } = await tx.query<Kept>(
    `select request_hash as "requestHash", status, body, again, packed
     from idempotency_key where person_id = $1 and key = $2`,
    [personId, key],
  );
  return rows[0]!;
}

/** Keeps an answer under a key: as JSON, packed, or what it is made again from. */
export function updateKept(
  tx: Transaction,
  personId: number,
  key: string,
  {
    status,
    body,
    again,
    packed,
  }: { status: number; body: string | null; again: string | null; packed: Buffer | null },
): void {
  tx.send(
    `update idempotency_key set status = $3, body = $4, again = $5, packed = $6
     where person_id = $1 and key = $2`,
    [personId, key, status, body, again, packed],
  );
}

/** Forgets keys of which nobody repeats the request any more. */
export async function forgetKeys(db: Database): Promise<void> {
  await db.query(
    `delete from idempotency_key where created_at < now() - make_interval(hours => ${ANSWER_KEPT_HOURS})`,
  );
}
