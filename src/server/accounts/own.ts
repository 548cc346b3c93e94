import { hash, verify } from '@node-rs/argon2';
import Bowser from 'bowser';
import type { ChangePasswordRequest, OwnSession } from '../../contract/accounts.ts';
import type { Me } from '../../contract/session.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { transaction, type Database } from '../db/transaction.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { endOwnSession, endSessionsOf, readSessions, tokenHash } from '../session/index.ts';
import { refuseCommon } from './passwords.ts';
import { dropLinks, dropPassword, readPassword, writePassword } from './queries.ts';

/**
 * Gives somebody another password of their own, who knows the present one.
 * @param session the token of the browser in which they do it, which stays signed in
 * @throws Refusal naming `old` where it is another, `password` where it is a common one
 */
export async function changeOwnPassword(
  { pool }: Platform,
  me: Me,
  { old, password, endOthers }: ChangePasswordRequest,
  session: string,
): Promise<void> {
  const present = await readPassword(pool, me.id);
  if (present === null || !(await verify(present, old)))
    throw invalid([{ field: 'old', message: 'must be your present password' }]);
  refuseCommon(password, [me.name, me.email]);
  const passwordHash = await hash(password);
  await transaction(pool, async (tx) => {
    writePassword(tx, me.id, passwordHash, null);
    dropLinks(tx, [me.id]);
    if (endOthers) await endSessionsOf(tx, [me.id], session);
    announce(tx, [subjectOf('person', me.id)]);
  });
}

/** Where somebody is signed in, the last used first. */
export async function ownSessions(
  { pool, clock }: Platform,
  me: Me,
  session: string,
): Promise<OwnSession[]> {
  const own = tokenHash(session);
  const rows = await readSessions(pool, me.id, clock.now());
  return rows.map((row) => ({
    id: row.id,
    browser: browserInWords(row.browser),
    signedInAt: row.createdAt,
    seenAt: row.seenAt,
    isThis: row.tokenHash.equals(own),
  }));
}

/** @throws Refusal where it is none of theirs */
export async function endOne({ pool }: Platform, me: Me, id: number): Promise<void> {
  await transaction(pool, async (tx) => {
    if (!(await endOwnSession(tx, me.id, id)))
      throw new Refusal('no-such-session', 'You are not signed in there any more.', {
        fields: [{ field: 'id', message: 'must be one of your own sessions' }],
      });
    announce(tx, [subjectOf('person', me.id)]);
  });
}

/** Which browser on what, as it says itself; empty where it says nothing that is known. */
function browserInWords(agent: string): string {
  if (!agent) return '';
  const { browser, os } = Bowser.parse(agent);
  return [browser.name, os.name].filter(Boolean).join(' on ');
}

/** Whether somebody has a password. */
export const hasPassword = async (db: Database, personId: number): Promise<boolean> =>
  (await readPassword(db, personId)) !== null;

/**
 * Lets somebody sign in without a password, who has another way in.
 * @param otherWays how many those are
 * @throws Refusal naming `old` where it is another; where there is no other way
 */
export async function removeOwnPassword(
  { pool }: Platform,
  me: Me,
  old: string,
  otherWays: number,
): Promise<void> {
  if (otherWays === 0)
    throw new Refusal('last-way-in', 'Add a passkey first: you could not sign in any more.');
  const present = await readPassword(pool, me.id);
  if (present === null || !(await verify(present, old)))
    throw invalid([{ field: 'old', message: 'must be your present password' }]);
  await transaction(pool, async (tx) => {
    dropPassword(tx, me.id);
    dropLinks(tx, [me.id]);
    announce(tx, [subjectOf('person', me.id)]);
    await Promise.resolve();
  });
}
