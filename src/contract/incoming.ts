import { z } from 'zod';
import { defineRoutes } from './route.ts';
import { eventPath } from './events.ts';

export const incomingPath = z.strictObject({ id: z.uuid('must be the id of a mail') });

/** A mail about a meeting of mine, or to my own address, that could not be counted by itself. */
export const asideMail = z.strictObject({
  id: z.string(),
  receivedAt: z.int(),
  sender: z.string(),
  subject: z.string(),
  words: z.string(),
  /** Why it was put aside, in a sentence. */
  reason: z.string(),
  /** Whether it can be counted by hand: it carries an answer, or an invitation. */
  canCount: z.boolean(),
});
export type AsideMail = z.output<typeof asideMail>;

export const asideList = z.strictObject({
  mails: z.array(asideMail),
});
export type AsideList = z.output<typeof asideList>;

/** Mail that was put aside: about a meeting, or to somebody’s own address; counted by hand, or left. */
export const incomingRoutes = defineRoutes({
  'GET /api/incoming': { may: 'read own', answer: asideList, replica: true },
  'GET /api/replies/:id/aside': {
    may: 'change event',
    params: eventPath,
    answer: asideList,
    replica: true,
  },
  'POST /api/incoming/:id/count': {
    may: 'change own-by-id',
    params: incomingPath,
    answer: asideList,
  },
  'POST /api/incoming/:id/leave': {
    may: 'change own-by-id',
    params: incomingPath,
    answer: asideList,
  },
});
