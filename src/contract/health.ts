import { z } from 'zod';
import { defineRoutes } from './route.ts';
/** What waits: how much, and for how long the oldest of it. */
export const waiting = z.strictObject({
  count: z.int(),
  oldestSeconds: z.int(),
});
export type LettersWaiting = z.output<typeof waiting>;

/** How a server is, for those who run it. */
export const health = z.strictObject({
  ok: z.boolean(),
  database: z.enum(['answers', 'away']),
  /** Jobs that are due; null where nobody can say. */
  jobs: waiting.nullable(),
  /** Letters that have not gone out, those that wait for another try among them. */
  letters: waiting.nullable(),
});
export type Health = z.output<typeof health>;

/** /api/health: whether the database answers, and what waits to be done. */
export const healthRoutes = defineRoutes({
  'GET /api/health': { may: 'anybody', cost: 'unmetered', answer: health },
});
