import { z } from 'zod';
import { byId } from './common.ts';
import { defineRoutes } from './route.ts';

export const RECEIVES = ['nothing', 'invitations', 'everything'] as const;
export type Receives = (typeof RECEIVES)[number];

/** Somebody may act for me from now on, or hears of something else of mine. */
export const delegateRequest = z.strictObject({
  /** What of my news they hear of, too: nothing, what I am invited to and how it changes, or everything. */
  receives: z.enum(RECEIVES, { error: 'must be "nothing", "invitations" or "everything"' }),
});
export type DelegateRequest = z.input<typeof delegateRequest>;

export const delegate = z.strictObject({
  id: z.int(),
  name: z.string(),
  receives: z.enum(RECEIVES),
  since: z.int(),
});
export type Delegate = z.output<typeof delegate>;

export const delegatesResponse = z.strictObject({
  /** Who acts for me, by name. */
  delegates: z.array(delegate),
  /** Who coordinates a team of mine, by name: they plan, answer and book for me what is not private. */
  coordinators: z.array(z.strictObject({ id: z.int(), name: z.string() })),
});
export type DelegatesResponse = z.output<typeof delegatesResponse>;

/** /api/delegates: who acts for somebody, and what they hear of. */
export const delegatesRoutes = defineRoutes({
  'GET /api/delegates': { may: 'read own', answer: delegatesResponse, replica: true },
  'PUT /api/delegates/:id': {
    may: 'change own',
    params: byId,
    body: delegateRequest,
    answer: delegatesResponse,
  },
  'DELETE /api/delegates/:id': {
    may: 'change own',
    params: byId,
    answer: delegatesResponse,
  },
});
