import { z } from 'zod';
import { text } from './common.ts';
import { proposeRequest } from './asking.ts';
import { daysAround, daysQuery, givenAnswer } from './invitations.ts';
import { reply } from './values.ts';
import { defineRoutes, file } from './route.ts';

/** What the letter to somebody outside holds: who they are among those invited, and a proof of it. */
export const guestPath = z.strictObject({
  token: z.string().regex(/^[0-9a-z]{1,13}~[A-Za-z0-9_-]{43}$/, 'must be the link of a letter'),
});

export const guestReplyRequest = z.strictObject({
  reply: givenAnswer,
  note: text(2000).default(''),
});
export type GuestReplyRequest = z.input<typeof guestReplyRequest>;

export const guestProposeRequest = proposeRequest.omit({ occurrence: true });
export type GuestProposeRequest = z.input<typeof guestProposeRequest>;

export const guestDaysQuery = daysQuery.omit({ occurrence: true, for: true });

/** An invitation as somebody outside sees it. */
export const guestInvitation = z.strictObject({
  title: z.string(),
  organizer: z.string(),
  organization: z.string(),
  /** Who is asked. */
  name: z.string(),
  role: z.enum(['required', 'optional']),
  status: z.enum(['confirmed', 'cancelled']),
  /** Of the next date, or the last. Epoch milliseconds. */
  start: z.int(),
  end: z.int(),
  allDay: z.boolean(),
  /** The organizer's own, and how people call where that is. */
  zone: z.string(),
  city: z.string(),
  place: z.string(),
  /** Clean HTML. */
  description: z.string(),
  /** How it repeats, in words; null for once. */
  repeats: z.string().nullable(),
  /** What the organizer last wrote to those who are invited. */
  message: z.string().nullable(),
  /** Names of the first few others, and how many more there are. */
  others: z.array(z.string()),
  more: z.int(),
  reply: reply,
  note: z.string(),
  /** Other times they ask for, of the date that is shown. */
  proposals: z.array(
    z.strictObject({
      start: z.int(),
      end: z.int(),
    }),
  ),
  /** Whether it is too late to answer: it is over, or cancelled. */
  isOver: z.boolean(),
  /** The server's present instant, epoch milliseconds. */
  now: z.int(),
});
export type GuestInvitation = z.output<typeof guestInvitation>;

/** /api/guest/:token: an invitation by the link in a letter, its answer and its calendar file. */
export const guestRoutes = defineRoutes({
  'GET /api/guest/:token': {
    may: 'anybody',
    cost: 'public',
    params: guestPath,
    answer: guestInvitation,
    replica: true,
  },
  'POST /api/guest/:token/reply': {
    may: 'anybody',
    cost: 'public',
    params: guestPath,
    body: guestReplyRequest,
    answer: guestInvitation,
    transaction: false,
  },
  'GET /api/guest/:token/days': {
    may: 'anybody',
    cost: 'public',
    params: guestPath,
    query: guestDaysQuery,
    answer: daysAround,
    replica: true,
  },
  'PUT /api/guest/:token/proposals': {
    may: 'anybody',
    cost: 'public',
    params: guestPath,
    body: guestProposeRequest,
    answer: guestInvitation,
    transaction: false,
  },
  'GET /api/guest/:token/calendar': {
    may: 'anybody',
    cost: 'public',
    params: guestPath,
    answer: file('text/calendar'),
    replica: true,
  },
});
