import { z } from 'zod';
import { zone } from './common.ts';
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
  /** Whom its sender sends in their place: counting it asks them. */
  sends: z.string().nullable(),
  /** Whether whoever counts it has to say by which clock its times are. */
  wantsClock: z.boolean(),
  /** Whether more of the same sender is put aside in the same place. */
  hasMore: z.boolean(),
});
export type AsideMail = z.output<typeof asideMail>;

export const asideList = z.strictObject({
  mails: z.array(asideMail),
});
export type AsideList = z.output<typeof asideList>;

/** How a mail is counted by hand. */
export const countAside = z.strictObject({
  /** By which clock its times are, where nobody knows what it calls it. */
  zone: zone.optional(),
  /** Whether all that is put aside of the same sender in the same place is counted, too. */
  allOfSender: z.boolean().default(false),
});
export type CountAside = z.output<typeof countAside>;

/** A letter from which something at a meeting was taken, and why it was believed. */
export const countedMail = z.strictObject({
  receivedAt: z.int(),
  sender: z.string(),
  /** Why it was believed, and what of it is not kept: sentences. */
  why: z.string(),
});
export type CountedMail = z.output<typeof countedMail>;

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
    body: countAside,
    answer: asideList,
  },
  /** What of a meeting came by mail, for those who take part in it. */
  'GET /api/events/:id/letters': {
    may: 'read event',
    params: eventPath,
    answer: z.strictObject({ letters: z.array(countedMail) }),
    replica: true,
  },
  'POST /api/incoming/:id/leave': {
    may: 'change own-by-id',
    params: incomingPath,
    answer: asideList,
  },
});
