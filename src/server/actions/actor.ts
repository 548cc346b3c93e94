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
      /** Whoever does it in their name; null where they do it themselves. */
      by: Pick<Me, 'id' | 'name' | 'email'> | null;
    }
  | { kind: 'system' };

export type PersonActor = Extract<Actor, { kind: 'person' }>;

/** The id of whoever does it, for the log; null for the system. */
export const actorId = (actor: Actor): number | null =>
  actor.kind === 'person' ? (actor.by ?? actor.me).id : null;

/**
 * In whose name something is done to what somebody organizes: theirs, where the actor acts for them;
 * null where the actor does it themselves.
 */
export function principalIn(actor: Actor, organizerId: number | null): number | null {
  if (actor.kind !== 'person') return null;
  if (actor.by) return actor.me.id;
  return organizerId !== null &&
    actor.me.id !== organizerId &&
    actor.principals.includes(organizerId)
    ? organizerId
    : null;
}

/** Whoever does it, and in whose name: `Robine Thys, for Sunniva Brekke`. */
export const actorName = (actor: Actor): string => {
  if (actor.kind === 'system') return 'Marmot';
  const { me, by } = actor;
  return by ? `${by.name}, for ${me.name}` : me.name;
};

/** Whether somebody is whoever does it. */
export const isActor = (actor: Actor, personId: number): boolean => actorId(actor) === personId;
