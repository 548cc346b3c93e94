import type { Database, Transaction } from '../db/transaction.ts';
import type { Answer } from './action.ts';
import { Problem } from './problem.ts';

/**
 * Takes a key for this transaction; a request that holds the same key at this moment is waited for.
 * @returns the answer of an earlier request with this key, or null when this is the first
 * @throws Problem 422 when the key belongs to a different request
 */
export async function claimKey(
  tx: Transaction,
  personId: number,
  key: string,
  requestHash: Buffer,
): Promise<Answer | null> {
  const claimed = await tx.query(
    `insert into idempotency_key (person_id, key, request_hash) values ($1, $2, $3)
     on conflict do nothing`,
    [personId, key, requestHash],
  );
  if (claimed.rowCount === 1) return null;
  const { rows } = await tx.query<{ request_hash: Buffer; status: number; body: unknown }>(
    'select request_hash, status, body from idempotency_key where person_id = $1 and key = $2',
    [personId, key],
  );
  const earlier = rows[0]!;
  if (!earlier.request_hash.equals(requestHash)) {
    throw new Problem(422, 'key-used', 'This Idempotency-Key was used for a different request.', {
      fields: [{ field: 'Idempotency-Key', message: 'must be new for a new request' }],
    });
  }
  return { status: earlier.status, body: earlier.body };
}

export function keepAnswer(tx: Transaction, personId: number, key: string, answer: Answer): void {
  tx.send('update idempotency_key set status = $3, body = $4 where person_id = $1 and key = $2', [
    personId,
    key,
    answer.status,
    JSON.stringify(answer.body ?? null),
  ]);
}

/** How long the answer to a request is kept: longer than any browser repeats it. */
const KEPT_HOURS = 24;

/** Forgets keys of which nobody repeats the request any more. */
export async function forgetKeys(db: Database): Promise<void> {
  await db.query(
    `delete from idempotency_key where created_at < now() - make_interval(hours => ${KEPT_HOURS})`,
  );
}
