import { z } from 'zod';
import { subjectId } from './common.ts';

const MOST_AT_ONCE = 200;

/** How many entries of a long list are wanted at once. */
export const limit = z.coerce
  .number()
  .int('must be a whole number')
  .min(1, 'must be at least 1')
  .max(MOST_AT_ONCE, `may be at most ${MOST_AT_ONCE}`)
  .default(60);

/** Which part of a long list of people or places is wanted. */
export const page = {
  /** The id of the last entry that is there already; without it, from the beginning. */
  after: z.coerce.number().pipe(subjectId).optional(),
  limit,
};
