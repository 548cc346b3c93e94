import { z } from 'zod';
import { line, text } from './common.ts';
import { limit } from './paging.ts';
import { defineRoutes, file, nothing } from './route.ts';

/** Letters to one address, or whose receiver or subject holds some words, a part at a time. */
export const mailroomQuery = z.strictObject({
  recipient: line(254).optional(),
  q: line(254).default(''),
  after: z.uuid('must be the id of a message').optional(),
  limit,
});
export type MailroomQuery = z.output<typeof mailroomQuery>;
export const mailroomPath = z.strictObject({ id: z.uuid('must be the id of a message') });

export const mailroomAnswer = z.strictObject({
  reply: z.enum(['accepted', 'tentative', 'declined'], {
    error: 'must be "accepted", "tentative" or "declined"',
  }),
  note: text(2000).default(''),
  /** Another time that is asked for: the answer is then a COUNTER. */
  instead: z
    .strictObject({
      start: z.int('must be an instant in milliseconds'),
      end: z.int('must be an instant in milliseconds'),
    })
    .optional(),
});

/** What became of a mail that was dropped: counted, or put aside with a reason. */
export const mailroomDropped = z.strictObject({
  state: z.enum(['counted', 'automatic', 'bounced', 'aside']),
  reason: z.string(),
});
export type MailroomDropped = z.output<typeof mailroomDropped>;
export type MailroomAnswer = z.input<typeof mailroomAnswer>;

export const mailroomEntry = z.strictObject({
  id: z.string(),
  sender: z.string(),
  recipient: z.string(),
  subject: z.string(),
  receivedAt: z.int(),
});
export type MailroomEntry = z.output<typeof mailroomEntry>;

/** A part of the letters there are, newest first. */
export const mailroomList = z.strictObject({
  entries: z.array(mailroomEntry),
  total: z.int(),
});
export type MailroomList = z.output<typeof mailroomList>;

export const mailroomMessage = mailroomEntry.extend({
  from: z.strictObject({
    name: z.string(),
    address: z.string(),
  }),
  to: z.strictObject({
    name: z.string(),
    address: z.string(),
  }),
  text: z.string(),
  /** The text/calendar part, and its method. */
  calendar: z.string().nullable(),
  method: z.string().nullable(),
});
export type MailroomMessage = z.output<typeof mailroomMessage>;

/** /api/mailroom: the mail that was sent, as its receivers would see it, and answering as they would. In the
 * demonstration its own people read all of it, elsewhere everybody theirs. */
export const mailroomRoutes = defineRoutes({
  'GET /api/mailroom': {
    may: 'read own',
    query: mailroomQuery,
    answer: mailroomList,
    replica: true,
  },
  'GET /api/mailroom/:id': {
    may: 'read own-by-id',
    params: mailroomPath,
    answer: mailroomMessage,
    replica: true,
  },
  'GET /api/mailroom/:id/letter': {
    may: 'read own-by-id',
    params: mailroomPath,
    answer: file('text/html'),
    replica: true,
  },
  'GET /api/mailroom/:id/source': {
    may: 'read own-by-id',
    params: mailroomPath,
    answer: file('text/plain'),
    replica: true,
  },
  'POST /api/mailroom/:id/answer': {
    may: 'change own-by-id',
    params: mailroomPath,
    body: mailroomAnswer,
    answer: nothing,
    transaction: false,
  },
  'POST /api/mailroom/drop': { may: 'change own', answer: mailroomDropped, transaction: false },
});
