import type { Me } from '../../contract/session.ts';

/**
 * Who does or reads something. The system is the server itself: jobs, and answers that come by mail.
 */
export type Actor =
  | {
      kind: 'person';
      me: Me;
      /** Those for whom this person acts, themselves first. */
      principals: readonly number[];
    }
  | { kind: 'system' };

export type PersonActor = Extract<Actor, { kind: 'person' }>;

/** The person's id for the log; null for the system. */
export const actorId = (actor: Actor): number | null =>
  actor.kind === 'person' ? actor.me.id : null;
