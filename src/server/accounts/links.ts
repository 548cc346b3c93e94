import { createHash, randomBytes } from 'node:crypto';
import { hash } from '@node-rs/argon2';
import type { LinkShown, UseLinkRequest } from '../../contract/accounts.ts';
import { Refusal } from '../../core/refusal.ts';
import { breather } from '../actions/index.ts';
import { transaction, type Database, type Transaction } from '../db/transaction.ts';
import { keepOwnDays } from '../events/index.ts';
import { announce, DIRECTORY, subjectOf } from '../live/index.ts';
import { postMails, withdrawPurpose } from '../mail/index.ts';
import type { Platform } from '../platform.ts';
import { endSessionsOf } from '../session/index.ts';
import {
  addressChangedLetter,
  linkAddress,
  passwordLetter,
  welcomeLetter,
  type Linked,
} from './letters.ts';
import {
  countPasswordLetters,
  dropLinks,
  findAccount,
  forgetDevices,
  keepLinks,
  lockLink,
  readLink,
  writePassword,
} from './queries.ts';
import { refuseCommon } from './passwords.ts';
import {
  LETTERS_AT_ONCE,
  MOST_PASSWORD_LETTERS,
  PASSWORD_LETTERS_MS,
  PASSWORD_LINK_MS,
  WELCOME_MS,
} from './limits.ts';

const newToken = (): string => randomBytes(32).toString('base64url');
const hashOf = (token: string): Buffer => createHash('sha256').update(token).digest();

const noSuchLink = () =>
  new Refusal(
    'link-not-valid',
    'This link is not valid any more. It works once, and a newer one ends it.',
  );

/** Writes letters of welcome; links that these people had before are good no more. */
export async function welcome(
  tx: Transaction,
  { clock, publicUrl }: Pick<Platform, 'clock' | 'publicUrl'>,
  people: readonly Linked[],
  facts: { organization: string; by: string },
): Promise<void> {
  if (people.length === 0) return;
  const now = clock.now();
  const expiresAt = now + WELCOME_MS;
  const tokens = people.map(newToken);
  const ids = people.map(({ id }) => id);
  keepLinks(
    tx,
    people.map(({ id }, k) => ({ personId: id, hash: hashOf(tokens[k]!) })),
    'welcome',
    now,
    expiresAt,
  );
  withdrawPurpose(tx, 'welcome', ids);
  // Thousands of letters are composed and sent in parts, so that others are answered between them.
  const breathe = breather();
  for (let from = 0; from < people.length; from += LETTERS_AT_ONCE) {
    const letters = [];
    for (const [k, one] of people.slice(from, from + LETTERS_AT_ONCE).entries()) {
      await breathe();
      letters.push(welcomeLetter(one, tokens[from + k]!, { ...facts, publicUrl, expiresAt }));
    }
    postMails(tx, letters, now);
  }
}

/** Writes to the former addresses of people who sign in with another from now on; links to the former are good no more. */
export function tellFormerAddresses(
  tx: Transaction,
  { clock }: Pick<Platform, 'clock'>,
  moved: readonly { id: number; name: string; former: string; address: string }[],
  facts: { organization: string; by: string },
): void {
  if (moved.length === 0) return;
  const ids = moved.map(({ id }) => id);
  dropLinks(tx, ids);
  withdrawPurpose(tx, 'password', ids);
  postMails(
    tx,
    moved.map(({ name, former, address }) =>
      addressChangedLetter({ name, email: former }, { ...facts, address }),
    ),
    clock.now(),
  );
}

/** A link of welcome to be handed over by whoever made it; a letter that has not left is taken back. */
export function welcomeByHand(
  tx: Transaction,
  { clock, publicUrl }: Pick<Platform, 'clock' | 'publicUrl'>,
  personId: number,
): string {
  const [token, now] = [newToken(), clock.now()];
  keepLinks(tx, [{ personId, hash: hashOf(token) }], 'welcome', now, now + WELCOME_MS);
  withdrawPurpose(tx, 'welcome', [personId]);
  return linkAddress(publicUrl, token);
}

/** Ends what lets people in, whom nobody expects any more: links, letters with links, sessions. */
export async function shutOut(tx: Transaction, personIds: readonly number[]): Promise<void> {
  if (personIds.length === 0) return;
  dropLinks(tx, personIds);
  withdrawPurpose(tx, 'welcome', personIds);
  withdrawPurpose(tx, 'password', personIds);
  await endSessionsOf(tx, personIds);
}

/** Whom a link is for. @throws Refusal where it is none, was used, or is over */
export async function showLink(db: Database, token: string, now: number): Promise<LinkShown> {
  const link = await readLink(db, hashOf(token), now);
  if (!link) throw noSuchLink();
  const { purpose, organization, name, email, zone } = link;
  return { purpose, organization, name, email, zone };
}

/**
 * Gives whoever has a link the password that they chose; where they had one, all that were signed in are out.
 * @returns their id
 * @throws Refusal where the link is none, was used, or is over, or the password is a common one
 */
export async function useLink(
  { pool, clock }: Platform,
  { token, password, zone }: UseLinkRequest,
): Promise<number> {
  const hashed = hashOf(token);
  const shown = await readLink(pool, hashed, clock.now());
  if (!shown) throw noSuchLink();
  refuseCommon(password, [shown.name, shown.email, shown.organization]);
  // Only now: it takes a processor for a while, which nobody without a link may ask for.
  const passwordHash = await hash(password);
  return transaction(pool, async (tx) => {
    const link = await lockLink(tx, hashed, clock.now());
    if (!link) throw noSuchLink();
    const { personId } = link;
    dropLinks(tx, [personId]);
    await endSessionsOf(tx, [personId]);
    if (link.purpose === 'password') forgetDevices(tx, personId);
    writePassword(tx, personId, passwordHash, zone ?? null);
    if (zone && zone !== link.zone) keepOwnDays(tx, [personId]);
    announce(tx, [DIRECTORY, subjectOf('person', personId)]);
    return personId;
  });
}

/**
 * What becomes of an address that somebody gave as theirs: a letter to whoever has it and can sign in, one of
 * welcome to whoever never did, and nothing where it is nobody's, or where it was asked too often.
 */
export async function answerForgotten(platform: Platform, email: string): Promise<void> {
  const { pool, clock, publicUrl } = platform;
  await transaction(pool, async (tx) => {
    const account = await findAccount(tx, email);
    if (!account) return;
    const now = clock.now();
    const lately = await countPasswordLetters(tx, account.id, now - PASSWORD_LETTERS_MS);
    if (lately >= MOST_PASSWORD_LETTERS) return;
    const token = newToken();
    const isWelcome = account.account === 'invited';
    const expiresAt = now + PASSWORD_LINK_MS;
    keepLinks(
      tx,
      [{ personId: account.id, hash: hashOf(token) }],
      isWelcome ? 'welcome' : 'password',
      now,
      expiresAt,
    );
    withdrawPurpose(tx, 'welcome', [account.id]);
    withdrawPurpose(tx, 'password', [account.id]);
    postMails(tx, [passwordLetter(account, token, publicUrl)], now);
  });
}
