import { createHash, randomBytes } from 'node:crypto';
import type { SignInProblem } from '../../contract/providers.ts';
import { mailAddress, zone as zoneText } from '../../contract/common.ts';
import { Refusal } from '../../core/refusal.ts';
import { letIn, letCome } from '../administration/index.ts';
import { transaction, type Transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import { endSession, readVouched, tokenHash } from '../session/index.ts';
import {
  authorizationAddress,
  discover,
  endAddress,
  newNonce,
  newState,
  newVerifier,
  vouchedFor,
  type Vouched,
} from './client.ts';
import { ATTEMPT_MS, MOST_ATTEMPTS } from './limits.ts';
import {
  findByAddress,
  findByIdentity,
  insertAttempt,
  insertIdentity,
  readProvider,
  takeAttempt,
  type Attempt,
  type KeptProvider,
} from './queries.ts';

const hashOf = (token: string): Buffer => createHash('sha256').update(token).digest();

export const returnAddress = ({ publicUrl }: Pick<Platform, 'publicUrl'>): string =>
  `${publicUrl}/api/sign-in/return`;

/**
 * Lets a browser go to a provider.
 * @returns where it goes, and the token by which it is known when it comes back
 * @throws Refusal where there is no such provider, or it does not answer
 */
export async function begin(
  platform: Platform,
  id: number,
  leadsTo: string,
): Promise<{ location: string; browser: string }> {
  const provider = await readProvider(platform.pool, id);
  if (!provider) throw noSuchProvider();
  const now = platform.clock.now();
  const config = await discover(provider, now);
  const [state, nonce, verifier] = [newState(), newNonce(), newVerifier()];
  const browser = randomBytes(32).toString('base64url');
  const location = await authorizationAddress(config, returnAddress(platform), {
    ...{ state, nonce, verifier },
  });
  const attempt: Attempt = { providerId: id, nonce, verifier, leadsTo };
  const kept = await transaction(platform.pool, (tx) =>
    insertAttempt(
      tx,
      {
        ...attempt,
        stateHash: hashOf(state),
        browserHash: hashOf(browser),
        expiresAt: now + ATTEMPT_MS,
      },
      { now, most: MOST_ATTEMPTS },
    ),
  );
  if (!kept)
    throw new Refusal('too-many-attempts', 'Too many are signing in just now. Try again shortly.');
  return { location, browser };
}

export const noSuchProvider = () =>
  new Refusal('no-such-provider', 'Nobody signs in by that any more.', {
    fields: [{ field: 'id', message: 'must be the number of a way to sign in' }],
  });

/** What becomes of a browser that comes back: somebody is signed in, or why not. */
export type Returned =
  | { personId: number; leadsTo: string; providerId: number; idToken: string }
  | { problem: SignInProblem };

/**
 * Judges a browser that comes back from a provider. Each attempt is good once, for the browser that began it, so
 * that neither a code that was taken from somebody nor one that is used again leads anywhere.
 * @param query as it came, to the letter
 * @param browser the token it was given as it left
 */
export async function comeBack(
  platform: Platform,
  query: URLSearchParams,
  browser: string | undefined,
): Promise<Returned> {
  const { pool, clock, log } = platform;
  const state = query.get('state');
  if (!state || !browser) return { problem: 'over' };
  const attempt = await transaction(pool, (tx) =>
    takeAttempt(tx, hashOf(state), hashOf(browser), clock.now()),
  );
  const provider = attempt && (await readProvider(pool, attempt.providerId));
  if (!attempt || !provider) return { problem: 'over' };
  let vouched: Vouched;
  try {
    const config = await discover(provider, clock.now());
    const address = new URL(returnAddress(platform));
    address.search = query.toString();
    vouched = await vouchedFor(config, address, { ...attempt, state });
  } catch (error) {
    log.warn({ why: (error as Error).message, provider: provider.id }, 'a sign-in was refused');
    return { problem: problemOf(error, query) };
  }
  const found = await transaction(pool, (tx) => whoIs(tx, platform, provider, vouched));
  if ('problem' in found) return found;
  return {
    personId: found.personId,
    leadsTo: attempt.leadsTo || '/',
    providerId: provider.id,
    idToken: vouched.idToken,
  };
}

function problemOf(error: unknown, query: URLSearchParams): SignInProblem {
  if (error instanceof Refusal) return 'away';
  if (query.has('error')) return 'refused';
  const { name, code } = error as Error & { code?: string };
  // What fetch says of a connection that there is not.
  return code === 'OAUTH_TIMEOUT' || name === 'TypeError' ? 'away' : 'not-right';
}

/** Who is vouched for: by the subject, or by a verified address once. */
async function whoIs(
  tx: Transaction,
  platform: Platform,
  provider: KeptProvider,
  vouched: Vouched,
): Promise<{ personId: number } | { problem: SignInProblem }> {
  const known = await findByIdentity(tx, provider.id, vouched.subject);
  if (known) return welcomeBack(tx, known);
  const email = mailAddress.safeParse(vouched.email ?? '');
  if (!vouched.isVerified || !email.success) return { problem: 'unverified' };
  const now = platform.clock.now();
  const somebody = await findByAddress(tx, provider.id, email.data);
  if (somebody) {
    // An address that was given to somebody else since is not theirs whose it was.
    if (somebody.isJoined) return { problem: 'another' };
    if (!somebody.isHome) return { problem: 'unknown' };
    const welcomed = await welcomeBack(tx, somebody);
    if ('problem' in welcomed) return welcomed;
    return (await insertIdentity(tx, provider.id, vouched.subject, somebody.id, now))
      ? welcomed
      : { problem: 'another' };
  }
  if (provider.letsIn === null) return { problem: 'unknown' };
  const zone = zoneText.safeParse(vouched.zone ?? '');
  const personId = await letIn(tx, platform, {
    name: (vouched.name ?? email.data).slice(0, 120),
    email: email.data,
    role: provider.letsIn,
    zone: zone.success ? zone.data : null,
  });
  await insertIdentity(tx, provider.id, vouched.subject, personId, now);
  return { personId };
}

async function welcomeBack(
  tx: Transaction,
  { id, account }: { id: number; account: string },
): Promise<{ personId: number } | { problem: SignInProblem }> {
  if (account === 'invited') await letCome(tx, id);
  else if (account !== 'active') return { problem: account === 'ended' ? 'ended' : 'unknown' };
  return { personId: id };
}

/**
 * Ends a session.
 * @returns where the browser goes to end it at the provider, too; null where there is none, or it does not answer
 */
export async function leave(platform: Platform, token: string): Promise<string | null> {
  const { pool, clock, publicUrl } = platform;
  const by = await readVouched(pool, tokenHash(token));
  await transaction(pool, (tx) => endSession(tx, token));
  const provider = by && (await readProvider(pool, by.providerId));
  if (!provider) return null;
  try {
    return endAddress(await discover(provider, clock.now()), by.idToken, `${publicUrl}/`);
  } catch {
    return null;
  }
}
