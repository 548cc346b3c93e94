import type { JobDefinition } from '../jobs/index.ts';
import { transaction, type Database } from '../db/transaction.ts';
import { announce, DIRECTORY, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { ROWS_FORGOTTEN_AT_ONCE } from './limits.ts';
import {
  FORGOTTEN_NAME,
  inHtml,
  NAMED_IN,
  patternsOfAddress,
  patternsOfName,
  type Patterns,
} from './names.ts';
import { anonymize, readRemembered, replaceIn } from './queries.ts';

/** The kind of job that forgets somebody; its key is their number. */
export const FORGET_JOB = 'forget-person';

/** Puts a text in the place of another wherever people are named, a part of a table at a time. */
async function replaceEverywhere(
  db: Database,
  patterns: Patterns,
  to: string,
  signal?: AbortSignal,
): Promise<void> {
  for (const where of NAMED_IN)
    for (;;) {
      if (signal?.aborted) throw new Error('it takes longer than it may');
      const rows = await replaceIn(db, where, patterns, to);
      if (rows < ROWS_FORGOTTEN_AT_ONCE) break;
    }
}

/**
 * Forgets somebody who left: their name and address go from everything that is kept, letters and the log included,
 * part by part and their own entry last, so that a run that ends half way is gone on with. What happened stays, and
 * counts as before: of `somebody who left`. Where somebody else is called the same, their name stays in texts.
 */
export async function forgetPerson(
  { pool }: Pick<Platform, 'pool'>,
  id: number,
  signal?: AbortSignal,
): Promise<void> {
  const person = await readRemembered(pool, id);
  if (!person) return;
  const address = `forgotten-${id}@forgotten.invalid`;
  await replaceEverywhere(pool, patternsOfAddress(person.email), address, signal);
  if (!person.hasNamesake) {
    for (const name of new Set([person.name, inHtml(person.name)]))
      await replaceEverywhere(pool, patternsOfName(name), FORGOTTEN_NAME, signal);
  }
  await transaction(pool, async (tx) => {
    anonymize(tx, id, FORGOTTEN_NAME, address);
    announce(tx, [DIRECTORY, subjectOf('person', id)]);
    await Promise.resolve();
  });
}

export const forgetJob: JobDefinition = {
  kind: FORGET_JOB,
  atOnce: 1,
  timeLimitMs: 10 * 60_000,
  pausesMinutes: [1, 5, 30, 120],
  work: (platform, key, signal) => forgetPerson(platform, Number(key), signal),
};
