import { createHash } from 'node:crypto';
import type { Context } from 'koa';
import type { PersonActor } from '../actions/index.ts';
import { transaction, type Transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import { requireActor } from './access.ts';
import { claimKey, keepAnswer, type Again } from './idempotency.ts';
import { Problem } from './problem.ts';

export interface ActionAnswer<Body = unknown> {
  status: number;
  body: Body;
  /** What it is made again from, should it be too long to be kept (`makesAgain`). */
  again?: Again | undefined;
}

const KEY_PATTERN = /^[\x21-\x7e]{8,100}$/;

/**
 * Runs a user's action as one transaction. With an Idempotency-Key
 * header a repeated request gets the first one's answer, and nothing is done again.
 * @param digest SHA-256 of the body, where it is not JSON
 * @throws Problem 400 for a key that cannot be one, 422 when it was used for another request
 */
export async function act<Body>(
  ctx: Context,
  platform: Platform,
  work: (tx: Transaction, actor: PersonActor) => Promise<ActionAnswer<Body>>,
  digest?: Buffer,
): Promise<ActionAnswer<Body>> {
  const actor = requireActor(ctx);
  const key = ctx.get('Idempotency-Key');
  if (key && !KEY_PATTERN.test(key)) {
    throw new Problem(400, 'invalid-key', 'Idempotency-Key must be 8 to 100 visible characters.', {
      fields: [{ field: 'Idempotency-Key', message: 'must be 8 to 100 visible characters' }],
    });
  }
  return transaction(platform.pool, async (tx) => {
    if (!key) return work(tx, actor);
    const earlier = await claimKey(tx, actor, key, requestHash(ctx, digest));
    if (earlier) return earlier as ActionAnswer<Body>;
    const fresh = await work(tx, actor);
    keepAnswer(tx, actor.me.id, key, fresh);
    return fresh;
  });
}

/** What makes two requests the same: method, address with its query, and every byte of the body. */
const requestHash = (ctx: Context, digest?: Buffer): Buffer =>
  createHash('sha256')
    .update(`${ctx.method} ${ctx.url}\n${ctx.get('Content-Type')}\n`)
    .update(digest ?? JSON.stringify(ctx.request.body ?? null))
    .digest();
