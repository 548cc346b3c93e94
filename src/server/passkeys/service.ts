import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type AuthenticatorTransportFuture,
  type RegistrationResponseJSON,
} from '@simplewebauthn/server';
import type { z } from 'zod';
import { MOST_PASSKEYS } from '../../contract/limits.ts';
import type { authenticationResponse, registrationResponse } from '../../contract/passkeys.ts';
import type { Me } from '../../contract/session.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { transaction } from '../db/transaction.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { organizationName } from '../session/index.ts';
import { CHALLENGE_MS, MOST_CHALLENGES } from './limits.ts';
import {
  deletePasskey,
  insertPasskey,
  keepChallenge,
  lockCredential,
  noteUsed,
  readCredentials,
  renamePasskey,
  takeChallenge,
} from './queries.ts';

/** Whose keys they are: the host that people's browsers show. */
const hostOf = ({ publicUrl }: Pick<Platform, 'publicUrl'>): string => new URL(publicUrl).hostname;

async function keep(
  { pool, clock }: Platform,
  challenge: string,
  personId: number | null,
): Promise<void> {
  const now = clock.now();
  const kept = await transaction(pool, (tx) =>
    keepChallenge(
      tx,
      { challenge, personId, expiresAt: now + CHALLENGE_MS },
      { now, most: MOST_CHALLENGES },
    ),
  );
  if (!kept)
    throw new Refusal('too-many-attempts', 'Too many are signing in just now. Try again shortly.');
}

/** What somebody's device is asked for, to make a key: one that finds who they are by itself, and makes sure. */
export async function registrationOptions(platform: Platform, me: Me) {
  const [known, rpName] = await Promise.all([
    readCredentials(platform.pool, me.id),
    organizationName(platform.pool),
  ]);
  const options = await generateRegistrationOptions({
    rpName,
    rpID: hostOf(platform),
    userID: new TextEncoder().encode(String(me.id)),
    userName: me.email,
    userDisplayName: me.name,
    attestationType: 'none',
    excludeCredentials: known.map(({ id, transports }) => ({
      id,
      transports: transports as AuthenticatorTransportFuture[],
    })),
    authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
  });
  await keep(platform, options.challenge, me.id);
  return { ...options };
}

const notRight = (why: string) =>
  invalid([{ field: 'response', message: `must be what the device answered: ${why}` }]);

/** @throws Refusal where the device did not answer what it was asked, or its key is known already */
export async function addPasskey(
  platform: Platform,
  me: Me,
  name: string,
  response: z.output<typeof registrationResponse>,
): Promise<{ id: number }> {
  const { pool, clock, publicUrl } = platform;
  const { verified, registrationInfo } = await verifyRegistrationResponse({
    response: response as RegistrationResponseJSON,
    expectedChallenge: (challenge) =>
      transaction(pool, (tx) => takeChallenge(tx, challenge, me.id, clock.now())),
    expectedOrigin: publicUrl,
    expectedRPID: hostOf(platform),
    requireUserVerification: true,
  }).catch((error: Error) => {
    throw notRight(error.message);
  });
  if (!verified) throw notRight('it is not verified');
  const { credential } = registrationInfo;
  return transaction(pool, async (tx) => {
    const id = await insertPasskey(
      tx,
      {
        ...{ credentialId: credential.id, personId: me.id, publicKey: credential.publicKey },
        ...{ counter: credential.counter, transports: credential.transports ?? [], name },
        now: clock.now(),
      },
      MOST_PASSKEYS,
    );
    if (id === null)
      throw new Refusal(
        'too-much',
        `This device has a passkey already, or you have ${MOST_PASSKEYS} of them.`,
      );
    announce(tx, [subjectOf('person', me.id)]);
    return { id };
  });
}

/** What any device is asked for that somebody signs in with. */
export async function authenticationOptions(platform: Platform) {
  const options = await generateAuthenticationOptions({
    rpID: hostOf(platform),
    userVerification: 'required',
  });
  await keep(platform, options.challenge, null);
  return { ...options };
}

const noSuchKey = () =>
  new Refusal('link-not-valid', 'Nobody signs in here by that passkey. Use your password.');

/**
 * Who has the key that signed.
 * @returns their id
 * @throws Refusal where it is nobody's, its signature is not right, or what it signed was not asked for
 */
export async function whoSigned(
  platform: Platform,
  response: z.output<typeof authenticationResponse>,
): Promise<number> {
  const { pool, clock, publicUrl } = platform;
  return transaction(pool, async (tx) => {
    const key = await lockCredential(tx, response.id);
    if (!key) throw noSuchKey();
    const { verified, authenticationInfo } = await verifyAuthenticationResponse({
      response: response as AuthenticationResponseJSON,
      // In a transaction of its own: what was answered wrongly is not good again.
      expectedChallenge: (challenge) =>
        transaction(pool, (other) => takeChallenge(other, challenge, null, clock.now())),
      expectedOrigin: publicUrl,
      expectedRPID: hostOf(platform),
      credential: {
        id: response.id,
        publicKey: new Uint8Array(key.publicKey),
        counter: key.counter,
      },
      requireUserVerification: true,
    }).catch(() => {
      throw noSuchKey();
    });
    if (!verified) throw noSuchKey();
    noteUsed(tx, key.id, authenticationInfo.newCounter, clock.now());
    announce(tx, [subjectOf('person', key.personId)]);
    return key.personId;
  });
}

const noSuchPasskey = () =>
  new Refusal('no-such-passkey', 'You have no such passkey.', {
    fields: [{ field: 'id', message: 'must be one of your own passkeys' }],
  });

export async function rename(
  tx: Parameters<typeof renamePasskey>[0],
  me: Me,
  id: number,
  name: string,
): Promise<void> {
  if (!(await renamePasskey(tx, me.id, id, name))) throw noSuchPasskey();
  announce(tx, [subjectOf('person', me.id)]);
}

export async function remove(
  tx: Parameters<typeof deletePasskey>[0],
  me: Me,
  id: number,
): Promise<void> {
  const done = await deletePasskey(tx, me.id, id);
  if (done === 'none') throw noSuchPasskey();
  if (done === 'last')
    throw new Refusal(
      'last-way-in',
      'It is your only way to sign in. Ask for a password by letter first, or add another passkey.',
    );
  announce(tx, [subjectOf('person', me.id)]);
}
