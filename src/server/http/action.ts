import { createHash } from 'node:crypto';
import type { Context } from 'koa';
import type { Me } from '../../contract/session.ts';
import { transaction, type Transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import { requirePerson } from './access.ts';
import { claimKey, keepAnswer } from './idempotency.ts';
import { Problem } from './problem.ts';

export interface Answer {
  status: number;
  body: unknown;
}

const KEY_PATTERN = /^[\x21-\x7e]{8,100}$/;

/**
 * Runs a user's action as one transaction and answers with its result. With an Idempotency-Key
 * header a repeated request gets the first one's answer, and nothing is done again.
 * @throws Problem 400 for a key that cannot be one, 422 when it was used for another request
 */
export async function act(
  ctx: Context,
  platform: Platform,
  work: (tx: Transaction, me: Me) => Promise<Answer>,
): Promise<void> {
  const me = requirePerson(ctx);
  const key = ctx.get('Idempotency-Key');
  if (key && !KEY_PATTERN.test(key)) {
    throw new Problem(400, 'invalid-key', 'Idempotency-Key must be 8 to 100 visible characters.', {
      fields: [{ field: 'Idempotency-Key', message: 'must be 8 to 100 visible characters' }],
    });
  }
  const answer = await transaction(platform.pool, async (tx) => {
    if (!key) return work(tx, me);
    const earlier = await claimKey(tx, me.id, key, requestHash(ctx));
    if (earlier) return earlier;
    const fresh = await work(tx, me);
    await keepAnswer(tx, me.id, key, fresh);
    return fresh;
  });
  ctx.status = answer.status;
  ctx.body = answer.body;
}

const requestHash = (ctx: Context): Buffer =>
  createHash('sha256')
    .update(`${ctx.method} ${ctx.path}\n${JSON.stringify(ctx.request.body ?? null)}`)
    .digest();
