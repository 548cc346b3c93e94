import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import { hash } from '@node-rs/argon2';
import type { SetupRequest } from '../../contract/setup.ts';
import { Refusal } from '../../core/refusal.ts';
import { transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import { nobodyThere } from '../session/index.ts';
import { forgetLink, insertAdministrator, keepLink, lockLink } from './queries.ts';
import { LINK_VALID_MS } from './limits.ts';

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/**
 * A link by which the first administrator is made, good once and for a day; an earlier one is good no
 * more. Null where somebody can sign in already.
 */
export async function setupLink({ pool, clock, publicUrl }: Platform): Promise<string | null> {
  if (!(await nobodyThere(pool))) return null;
  const token = randomBytes(24).toString('base64url');
  await keepLink(pool, hashOf(token), clock.now() + LINK_VALID_MS);
  // Behind the number sign, so that no server on the way writes it down.
  return `${publicUrl}/welcome#${token}`;
}

/**
 * Makes the first administrator.
 * @returns their id
 * @throws Refusal when the link is not the one that was printed last, or was used, or is too old
 */
export async function setUp({ pool, clock }: Platform, request: SetupRequest): Promise<number> {
  return transaction(pool, async (tx) => {
    const link = await lockLink(tx);
    const matches =
      link && timingSafeEqual(Buffer.from(link.hash), Buffer.from(hashOf(request.token)));
    if (!matches || link.expiresAt <= clock.now() || !(await nobodyThere(tx))) {
      throw new Refusal(
        'link-not-valid',
        'This link is not valid any more. Start Marmot again for a new one.',
      );
    }
    await forgetLink(tx);
    // Only now: it takes a processor for a while, which nobody without the link may ask for.
    return insertAdministrator(tx, request, await hash(request.password));
  });
}
