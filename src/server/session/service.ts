import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { RateLimiterPostgres } from 'rate-limiter-flexible';
import type { SignInRequest } from '../../contract/session.ts';
import { transaction } from '../db/transaction.ts';
import { Problem } from '../http/problem.ts';
import type { Platform } from '../platform.ts';
import { findPassword, insertSession } from './queries.ts';

export const SESSION_MS = 30 * 24 * 3_600_000;
/** Wrong tries for one address from one place before it has to wait. */
const TRIES = 8;
const TRIES_WINDOW_SECONDS = 300;

export const tokenHash = (token: string): Buffer => createHash('sha256').update(token).digest();

/** Checked when nobody has the address, so that the answer takes as long as for somebody's. */
const nobodysHash = hash(randomBytes(16).toString('hex'));

/** Signs people in by address and password, more slowly after wrong tries. */
export class SignIn {
  private readonly limiter: RateLimiterPostgres;

  constructor(private readonly platform: Platform) {
    this.limiter = new RateLimiterPostgres({
      storeClient: platform.pool,
      tableName: 'rate_limit',
      tableCreated: true,
      keyPrefix: 'signin',
      points: TRIES,
      duration: TRIES_WINDOW_SECONDS,
    });
  }

  /**
   * @returns the token of a new session
   * @throws Problem 401 saying no more than that it was wrong; 429 after too many wrong tries
   */
  async signIn({ email, password }: SignInRequest, from: string): Promise<string> {
    const key = `${email.toLowerCase()}|${from}`;
    const tried = await this.limiter.get(key);
    if (tried && tried.consumedPoints >= TRIES) throw tooManyTries(tried.msBeforeNext);
    const known = await findPassword(this.platform.pool, email);
    const right = await verify(known?.hash ?? (await nobodysHash), password);
    if (!known || !right) {
      await this.limiter.consume(key).catch(() => undefined);
      throw new Problem(401, 'wrong-sign-in', 'Address or password is wrong.');
    }
    await this.limiter.delete(key);
    return openSession(this.platform, known.personId);
  }
}

function tooManyTries(waitMs: number): Problem {
  const minutes = Math.max(1, Math.ceil(waitMs / 60_000));
  const wait = minutes === 1 ? 'a minute' : `${minutes} minutes`;
  return new Problem(429, 'too-many-tries', `Too many wrong tries. Try again in ${wait}.`, {
    retryAfterSeconds: Math.ceil(waitMs / 1000),
  });
}

async function openSession(platform: Platform, personId: number): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  const now = platform.clock.now();
  await transaction(platform.pool, (tx) =>
    insertSession(tx, {
      tokenHash: tokenHash(token),
      personId,
      now,
      expiresAt: now + SESSION_MS,
    }),
  );
  return token;
}
