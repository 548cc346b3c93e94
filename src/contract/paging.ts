import { z } from 'zod';
import { subjectId } from './common.ts';
import { MOST_A_PART } from './limits.ts';

/** How many entries of a long list are wanted at once. */
export const limit = z.coerce
  .number()
  .int('must be a whole number')
  .min(1, 'must be at least 1')
  .max(MOST_A_PART, `may be at most ${MOST_A_PART}`)
  .default(60);

/** Which part of a long list of people or places is wanted. */
export const page = {
  /** The id of the last entry that is there already; without it, from the beginning. */
  after: z.coerce.number().pipe(subjectId).optional(),
  limit,
};
