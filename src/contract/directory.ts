import { z } from 'zod';
import { defineRoutes, nothing } from './route.ts';

/** The directory of the organization that keeps its accounts here (SCIM 2.0, at /scim/v2 with a token of its own). */
export const directoryRoutes = defineRoutes({
  'GET /api/administration/directory': {
    may: 'administer organization',
    answer: z.strictObject({
      address: z.string(),
      /** Null where there is no token. */
      madeAt: z.int().nullable(),
      usedAt: z.int().nullable(),
    }),
  },
  /** Makes another token; the one before is good no more. */
  'POST /api/administration/directory': {
    may: 'administer organization',
    answer: z.strictObject({ token: z.string() }),
    // Its answer is kept nowhere.
    transaction: false,
  },
  'DELETE /api/administration/directory': { may: 'administer organization', answer: nothing },
});
