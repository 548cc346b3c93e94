import { z } from 'zod';
import { MOST_KEPT_DAYS } from './limits.ts';
import { defineRoutes } from './route.ts';

/** What is kept for a time that administrators set, by kind. */
export const KEPT_KINDS = ['past', 'comments', 'letters', 'news', 'log'] as const;
export type KeptKind = (typeof KEPT_KINDS)[number];

/** The fewest days for which each kind is kept: what is taken back and answered by mail needs so long. */
export const FEWEST_DAYS: Record<KeptKind, number> = {
  past: 90,
  comments: 30,
  letters: 30,
  news: 7,
  log: 30,
};
const daysOf = (kind: KeptKind) =>
  z
    .int({ error: 'must be a number of days, or null for ever' })
    .min(FEWEST_DAYS[kind], `must be at least ${FEWEST_DAYS[kind]} days`)
    .max(MOST_KEPT_DAYS, `may be at most ${MOST_KEPT_DAYS} days`);

/** How long each kind is kept; days. What is past and what was said of it may be kept for ever: null. */
export const keeping = z.strictObject({
  past: daysOf('past').nullable(),
  comments: daysOf('comments').nullable(),
  letters: daysOf('letters'),
  news: daysOf('news'),
  log: daysOf('log'),
});
export type Keeping = z.output<typeof keeping>;

/** /api/administration/keeping: how long what is kept. */
export const keepingRoutes = defineRoutes({
  'GET /api/administration/keeping': { may: 'administer organization', answer: keeping },
  'PUT /api/administration/keeping': {
    may: 'administer organization',
    body: keeping,
    answer: keeping,
  },
});
