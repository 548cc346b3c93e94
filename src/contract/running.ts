import { z } from 'zod';
import { MOST_FAILED_LETTERS } from './limits.ts';
import { defineRoutes } from './route.ts';

/** How Marmot fares, for whoever runs it. */
export const running = z.strictObject({
  version: z.string(),
  node: z.string(),
  startedAt: z.int(),
  database: z.strictObject({
    version: z.string(),
    bytes: z.int(),
    /** The last change of its tables. */
    tables: z.string(),
  }),
  /** What is due and not done, by kind, with since when the first of it is. */
  jobs: z.array(z.strictObject({ kind: z.string(), due: z.int(), since: z.int(), tries: z.int() })),
  letters: z.strictObject({
    waiting: z.int(),
    /** Since when the first of them waits beyond what it is held back; null where none does. */
    since: z.int().nullable(),
    failed: z.int(),
    /** Where they go; null where they stay in the Mailroom. */
    server: z.string().nullable(),
  }),
  /** Null where none was ever made. */
  backup: z.strictObject({ at: z.int(), bytes: z.int() }).nullable(),
  /** Windows that listen, to the server that answers. */
  streams: z.int(),
});
export type Running = z.output<typeof running>;

export const failedLetter = z.strictObject({
  id: z.uuid(),
  to: z.string(),
  at: z.int(),
  /** What the mail server said. */
  failure: z.string(),
  /** Whether it can be tried again: not what tells of something that was told since, nor what holds a link. */
  canRetry: z.boolean(),
});
export type FailedLetter = z.output<typeof failedLetter>;

export const runningRoutes = defineRoutes({
  'GET /api/administration/running': { may: 'administer organization', answer: running },
  'GET /api/administration/letters': {
    may: 'administer organization',
    answer: z.strictObject({ letters: z.array(failedLetter).max(MOST_FAILED_LETTERS) }),
  },
  'POST /api/administration/letters/retry': {
    may: 'administer organization',
    body: z.strictObject({
      ids: z
        .array(z.uuid('must be the id of a letter'))
        .min(1, 'must name a letter')
        .max(MOST_FAILED_LETTERS, `may name at most ${MOST_FAILED_LETTERS} letters`),
    }),
    answer: z.strictObject({ retried: z.int() }),
  },
});
