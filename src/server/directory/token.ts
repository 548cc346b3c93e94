import { createHash, randomBytes } from 'node:crypto';
import type { PersonActor } from '../actions/index.ts';
import { noteOrganization } from '../administration/index.ts';
import { transaction, type Transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import { USED_EVERY_MS } from './limits.ts';
import { dropToken, findToken, keepToken, noteUsed } from './queries.ts';

const hashOf = (token: string): Buffer => createHash('sha256').update(token).digest();

/** Whether a token is the directory's; that it is used is noted now and then. */
export async function isDirectory({ pool, clock }: Platform, token: string): Promise<boolean> {
  const found = await findToken(pool, hashOf(token));
  if (!found) return false;
  const now = clock.now();
  if (found.usedAt === null || now - found.usedAt > USED_EVERY_MS)
    await transaction(pool, (tx) => Promise.resolve(noteUsed(tx, now)));
  return true;
}

/** Makes another token, which is shown this once; the one before is good no more. */
export async function makeToken(platform: Platform, actor: PersonActor): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await transaction(platform.pool, async (tx) => {
    keepToken(tx, hashOf(token), platform.clock.now());
    await noteOrganization(tx, platform, actor, 'made a token for the directory');
  });
  return token;
}

export async function endToken(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
): Promise<void> {
  dropToken(tx);
  await noteOrganization(tx, platform, actor, 'ended the token of the directory');
}
