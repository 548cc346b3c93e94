import { z } from 'zod';
import { byId, mailAddress, requiredLine, subjectId } from './common.ts';
import { MOST_ADDRESSES } from './limits.ts';
import { defineRoutes } from './route.ts';

const role = z.enum(['required', 'optional'], { error: 'must be "required" or "optional"' });

const remembered = z.union(
  [z.strictObject({ id: subjectId, role }), z.strictObject({ email: mailAddress, role })],
  { error: 'must name somebody or something by "id", or an address by "email", with a "role"' },
);

export const lineUpRequest = z.strictObject({
  name: requiredLine(60),
  members: z
    .array(remembered, { error: 'must be a list' })
    .min(1, 'must name somebody')
    .max(500, 'may name at most 500 people and places'),
});
export type LineUpRequest = z.input<typeof lineUpRequest>;

/** A line-up that I remember under a name. */
export const rememberedLineUp = lineUpRequest.extend({
  id: z.int(),
});
export type RememberedLineUp = z.output<typeof rememberedLineUp>;

/** Somebody I met lately, the most often first. */
export const metPerson = z.strictObject({
  id: z.int(),
  name: z.string(),
  detail: z.string(),
});
export type MetPerson = z.output<typeof metPerson>;

export const addressesRequest = z.strictObject({
  emails: z
    .array(mailAddress, { error: 'must be a list of addresses' })
    .min(1, 'must name an address')
    .max(MOST_ADDRESSES, `may name at most ${MOST_ADDRESSES} addresses`),
});

/** Whose addresses are; those that nobody here has are left out. */
export const addressOwners = z.strictObject({
  people: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
      email: z.string(),
    }),
  ),
});

const rememberedList = z.strictObject({ lineUps: z.array(rememberedLineUp) });
const lineUpsResponse = rememberedList.extend({ met: z.array(metPerson) });

/** /api/line-ups: line-ups that somebody remembers, people they met lately, and whose addresses are. */
export const lineUpsRoutes = defineRoutes({
  'GET /api/line-ups': { may: 'read own', answer: lineUpsResponse, replica: true },
  'PUT /api/line-ups': { may: 'change own', body: lineUpRequest, answer: rememberedList },
  'DELETE /api/line-ups/:id': {
    may: 'change own-by-id',
    params: byId,
    answer: rememberedList,
  },
  'POST /api/line-ups/addresses': {
    may: 'read catalogue',
    cost: 'many',
    body: addressesRequest,
    answer: addressOwners,
    transaction: false,
    replica: true,
  },
});
