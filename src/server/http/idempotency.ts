import { gunzipSync, gzipSync } from 'node:zlib';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import type { ActionAnswer } from './action.ts';
import { insertKey, readKept, updateKept, type Kept } from './keyQueries.ts';
import { Problem } from './problem.ts';
import { MOST_KEPT_CHARACTERS, MOST_PACKED_BYTES } from './limits.ts';

/** What an answer is made again from: its kind, and what that needs. */
export type Again = { kind: string } & Record<string, unknown>;

type Maker = (tx: Transaction, actor: PersonActor, again: Again) => Promise<unknown>;
const makers = new Map<string, Maker>();

/**
 * Says how the long answers of a kind are made again for whoever repeats a request: as things are then, which
 * is what they would read a moment later.
 */
export const makesAgain = (kind: string, make: Maker): void => void makers.set(kind, make);

/**
 * Takes a key for this transaction; a request that holds the same key at this moment is waited for.
 * @returns the answer of an earlier request with this key, or null when this is the first
 * @throws Problem 422 when the key belongs to a different request, 409 when its answer was too long to be kept
 */
export async function claimKey(
  tx: Transaction,
  actor: PersonActor,
  key: string,
  requestHash: Buffer,
): Promise<ActionAnswer | null> {
  const personId = actor.me.id;
  if (await insertKey(tx, personId, key, requestHash)) return null;
  const earlier = await readKept(tx, personId, key);
  if (!earlier.requestHash.equals(requestHash)) {
    throw new Problem(422, 'key-used', 'This Idempotency-Key was used for a different request.', {
      fields: [{ field: 'Idempotency-Key', message: 'must be new for a new request' }],
    });
  }
  return { status: earlier.status, body: await bodyOf(tx, actor, earlier) };
}

async function bodyOf(tx: Transaction, actor: PersonActor, kept: Kept): Promise<unknown> {
  const { again, packed, body } = kept;
  if (again?.kind === TOO_LONG)
    throw new Problem(409, 'done-before', 'This was done by an earlier request. Read it anew.');
  if (again) return makers.get(again.kind)!(tx, actor, again);
  return packed ? (JSON.parse(gunzipSync(packed).toString('utf8')) as unknown) : body;
}

const TOO_LONG = 'too-long';

/** Keeps an answer for whoever repeats its request, or what it is made again from. */
export function keepAnswer(
  tx: Transaction,
  personId: number,
  key: string,
  { status, body, again }: ActionAnswer,
): void {
  const text = JSON.stringify(body ?? null);
  const isShort = text.length <= MOST_KEPT_CHARACTERS;
  const packed = isShort || again ? null : gzipSync(text);
  const isKept = packed === null || packed.length <= MOST_PACKED_BYTES;
  const made = isShort ? null : (again ?? (isKept ? null : { kind: TOO_LONG }));
  updateKept(tx, personId, key, {
    status,
    body: isShort ? text : null,
    again: made && JSON.stringify(made),
    packed: isKept ? packed : null,
  });
}
