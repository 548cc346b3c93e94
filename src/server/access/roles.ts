import type { Right } from '../../contract/route.ts';
import type { Me, RoleAct } from '../../contract/session.ts';
import { Refusal } from '../../core/refusal.ts';
import type { Actor } from '../actions/index.ts';

/** What only some may, whoever's it is: an act, and on what. */
interface ThingOf {
  /** Adding and changing places, taking them out of use, agreeing to bookings, giving them to somebody. */
  'look-after': 'places';
  /** Booking in somebody's name for whom one does not act. */
  'book-for': 'anybody';
  /** Booking against a place's rules, and without anybody's agreement. */
  exceed: 'rules';
  /** Checking in to, moving, giving back and taking back bookings of others. */
  change: 'bookings';
  /** Who has a place, and what those who look after it are told. */
  see: 'holders';
  /** Its people, sites and settings: who is of it, and what they may. */
  administer: 'organization';
}

type Role = Me['role'];
const OF_STEWARDS: readonly RoleAct[] = ['look-after', 'book-for', 'exceed', 'change', 'see'];

/** Which roles may what, on everything that there is. */
export const ACTS_OF_ROLE: Record<Role, readonly RoleAct[]> = {
  staff: [],
  steward: OF_STEWARDS,
  administrator: [...OF_STEWARDS, 'administer'],
};

/** Whose right is asked: an actor, or whoever something is looked at for. */
export type Asker = { kind: 'system' } | { kind?: 'person'; me: Pick<Me, 'role'> };

/** Whether somebody may do something by their role. The system may all: what it does was judged before. */
export const may = <Of extends RoleAct>(asker: Asker, act: Of, _thing: ThingOf[Of]): boolean =>
  asker.kind === 'system' || ACTS_OF_ROLE[asker.me.role].includes(act);

/** The roles that may do something, for those who look for people. */
export const rolesThatMay = <Of extends RoleAct>(act: Of, _thing: ThingOf[Of]): Role[] =>
  (Object.keys(ACTS_OF_ROLE) as Role[]).filter((role) => ACTS_OF_ROLE[role].includes(act));

/** What somebody may by their role, as it is told to their browser. */
export const actsOf = (role: Role): RoleAct[] => [...ACTS_OF_ROLE[role]];

/** @throws Refusal unless the actor looks after places */
export function requireSteward(actor: Actor): void {
  if (may(actor, 'look-after', 'places')) return;
  throw new Refusal('not-allowed', 'Only those who look after places can do this.');
}

/** @throws Refusal unless the actor administers the organization */
export function requireAdministrator(actor: Actor): void {
  if (may(actor, 'administer', 'organization')) return;
  throw new Refusal('not-allowed', 'Only administrators can do this.');
}

/**
 * What of a route's right is known before anything is read; whether this event, booking or date is one's own
 * is judged with it.
 * @throws Refusal where nobody like the actor may
 */
export function requireRight(actor: Actor, right: Right): void {
  if (right === 'look-after places') requireSteward(actor);
  if (right === 'administer organization') requireAdministrator(actor);
}
