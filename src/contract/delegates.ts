import { z } from 'zod';
import { idInPath } from './common.ts';

export const RECEIVES = ['nothing', 'invitations', 'everything'] as const;
export type Receives = (typeof RECEIVES)[number];

/** Somebody may act for me from now on, or hears of something else of mine. */
export const delegateRequest = z.strictObject({
  /** What of my news they hear of, too: nothing, what I am invited to and how it changes, or everything. */
  receives: z.enum(RECEIVES, { error: 'must be "nothing", "invitations" or "everything"' }),
});
export type DelegateRequest = z.input<typeof delegateRequest>;

export const delegatePath = z.strictObject({ id: idInPath });

export interface Delegate {
  id: number;
  name: string;
  receives: Receives;
  since: number;
}

export interface DelegatesResponse {
  /** Who acts for me, by name. */
  delegates: Delegate[];
}
