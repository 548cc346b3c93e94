import { addressKey } from '../../core/mailAddress.ts';
import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { SignInRequest } from '../../contract/session.ts';
import { transaction, type Transaction } from '../db/transaction.ts';
import { ConcurrencyLimiter, networkOf, Problem } from '../http/index.ts';
import { announce } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import {
  deleteOwnSession,
  deleteSession,
  deleteSessionsOf,
  findPassword,
  insertSession,
  knowsDevice,
  rememberDevice,
} from './queries.ts';
import {
  NETWORK_SECONDS,
  NETWORK_TRIES,
  SESSION_MS,
  TRIES_AT_ADDRESS,
  TRIES_SECONDS,
} from './limits.ts';

export const tokenHash = (token: string): Buffer => createHash('sha256').update(token).digest();

/** The subject by which the end of a session is made known to its windows. */
export const subjectOfSession = (token: string): string => subjectOfHash(tokenHash(token));
const subjectOfHash = (hash: Buffer): string => `session:${hash.toString('hex').slice(0, 32)}`;

/** Checked when nobody has the address, so that the answer takes as long as for somebody's. */
const nobodysHash = hash(randomBytes(16).toString('hex'));

/** What a browser brings along when somebody signs in. */
interface Browser {
  /** The network address it comes from. */
  from: string;
  /** Its token, where somebody signed in from it before. */
  device: string | undefined;
  /** The token of the session it has, which ends with the new one. */
  session: string | undefined;
  /** What it says it is. */
  agent: string;
}

export interface SignedIn {
  session: string;
  device: string;
}

/** Signs people in by address and password, and makes those wait who guess. */
export class SignIn {
  /**
   * Each password that is checked takes a processor for a while; a storm of them would leave nothing to
   * those who are signed in.
   */
  private readonly line = new ConcurrencyLimiter({
    atOnce: 1,
    mostWaiting: 1_000,
    longestWaitMs: 20_000,
  });
  private readonly byAddress: RateLimiterPostgres;
  private readonly byDevice: RateLimiterPostgres;
  private readonly byNetwork: RateLimiterPostgres;

  constructor(private readonly platform: Platform) {
    const limiter = (keyPrefix: string, points: number, duration: number) =>
      new RateLimiterPostgres({
        storeClient: platform.pool,
        tableName: 'rate_limit',
        tableCreated: true,
        keyPrefix,
        points,
        duration,
      });
    this.byAddress = limiter('address', TRIES_AT_ADDRESS, TRIES_SECONDS);
    this.byDevice = limiter('device', TRIES_AT_ADDRESS, TRIES_SECONDS);
    this.byNetwork = limiter('network', NETWORK_TRIES, NETWORK_SECONDS);
  }

  /**
   * Every try is counted before it is made, so that of guesses made at the same moment no more are
   * tried; one that is right is taken back. From a device known before, others' guesses do not count.
   * @throws Problem 401 saying no more than that it was wrong; 429 after too many wrong tries
   */
  signIn({ email, password }: SignInRequest, browser: Browser): Promise<SignedIn> {
    return this.line.run(async () => {
      const { pool, clock } = this.platform;
      const known = await findPassword(pool, email);
      const device = browser.device ? tokenHash(browser.device) : null;
      const isKnown = known && device && (await knowsDevice(pool, device, known.personId));
      const counted: [RateLimiterPostgres, string][] = isKnown
        ? [[this.byDevice, `${known.personId}|${device.toString('hex')}`]]
        : [
            [this.byAddress, addressKey(email)],
            [this.byNetwork, networkOf(browser.from)],
          ];
      for (const [limiter, key] of counted) await consume(limiter, key);
      const right = await verify(known?.hash ?? (await nobodysHash), password);
      if (!known || !right) {
        throw new Problem(401, 'wrong-sign-in', 'Address or password is wrong.');
      }
      for (const [limiter, key] of counted) await limiter.reward(key);
      return openSession(this.platform, known.personId, browser, clock.now());
    });
  }
}

async function consume(limiter: RateLimiterPostgres, key: string): Promise<void> {
  await limiter.consume(key).catch((refusal: unknown) => {
    throw refusal instanceof RateLimiterRes ? tooManyTries(refusal.msBeforeNext) : refusal;
  });
}

function tooManyTries(waitMs: number): Problem {
  const minutes = Math.max(1, Math.ceil(waitMs / 60_000));
  const wait = minutes === 1 ? 'a minute' : `${minutes} minutes`;
  return new Problem(429, 'too-many-tries', `Too many wrong tries. Try again in ${wait}.`, {
    retryAfterSeconds: Math.ceil(waitMs / 1000),
  });
}

/** Who vouched for somebody, and how that is said to them when the session ends there, too. */
export interface VouchedBy {
  providerId: number;
  idToken: string;
}

/** Opens a session, and ends the one that this browser had. */
export async function openSession(
  platform: Platform,
  personId: number,
  { device: knownDevice, session: before, agent }: Omit<Browser, 'from'>,
  now: number,
  by: VouchedBy | null = null,
): Promise<SignedIn> {
  const session = randomBytes(32).toString('base64url');
  let device = knownDevice;
  await transaction(platform.pool, async (tx) => {
    // A token that this person never had came from somebody else, who would be known by it from then on.
    if (device === undefined || !(await knowsDevice(tx, tokenHash(device), personId)))
      device = randomBytes(32).toString('base64url');
    if (before) await endSession(tx, before);
    await rememberDevice(tx, { tokenHash: tokenHash(device), personId, now });
    await insertSession(tx, {
      tokenHash: tokenHash(session),
      personId,
      browser: agent,
      now,
      expiresAt: now + SESSION_MS,
      by,
    });
  });
  return { session, device: device! };
}

/** Ends a session, and its windows' streams. */
export async function endSession(tx: Transaction, token: string): Promise<void> {
  await deleteSession(tx, tokenHash(token));
  announce(tx, [subjectOfSession(token)]);
}

/** Ends the sessions of some people, all of them or all but one, and their windows' streams. */
export async function endSessionsOf(
  tx: Transaction,
  personIds: readonly number[],
  but: string | null = null,
): Promise<number> {
  const ended = await deleteSessionsOf(tx, personIds, but === null ? null : tokenHash(but));
  announce(tx, ended.map(subjectOfHash));
  return ended.length;
}

/** Ends one session of somebody. @returns whether it was one of theirs */
export async function endOwnSession(
  tx: Transaction,
  personId: number,
  id: number,
): Promise<boolean> {
  const ended = await deleteOwnSession(tx, personId, id);
  if (ended) announce(tx, [subjectOfHash(ended)]);
  return ended !== null;
}
