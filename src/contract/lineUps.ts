import { z } from 'zod';
import { idInPath, mailAddress, requiredLine, subjectId } from './common.ts';

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

export const lineUpPath = z.strictObject({ id: idInPath });

/** A line-up that I remember under a name. */
export interface RememberedLineUp extends z.output<typeof lineUpRequest> {
  id: number;
}

/** Somebody I met lately, the most often first. */
export interface MetPerson {
  id: number;
  name: string;
  detail: string;
}

export const addressesRequest = z.strictObject({
  text: z.string({ error: 'must be text' }).max(20_000, 'may be at most 20000 characters long'),
});

/** Who a pasted list of addresses names, and what in it is no address. */
export interface ReadAddresses {
  people: { id: number; name: string; email: string }[];
  outside: { name: string; email: string }[];
  unreadable: string[];
}
