import type { Right } from '../../contract/route.ts';
import type { Me, RoleAct } from '../../contract/session.ts';
import { listClauses } from '../../core/listClauses.ts';
import { Refusal } from '../../core/refusal.ts';
import type { Actor, PersonActor } from '../actions/index.ts';
import { MOST_NAMED } from './limits.ts';

/** A place by its number; or `some`, where it is asked whether there is any at all. */
type PlaceOrSome = number | 'some';

/** What only some may, whoever's it is: an act, and on what. */
interface ThingOf {
  /** Adding and changing places, taking them out of use, agreeing to bookings, giving them to somebody. */
  'look-after': PlaceOrSome;
  /** Booking a place in somebody's name for whom one does not act. */
  'book-for': PlaceOrSome;
  /** Booking against a place's rules, and without anybody's agreement. */
  exceed: PlaceOrSome;
  /** Checking in to, moving, giving back and taking back bookings of others. */
  change: PlaceOrSome;
  /** Who has a place, and what those who look after it are told. */
  see: PlaceOrSome;
  /** Its people, sites and settings: who is of it, and what they may. */
  administer: 'organization';
}

type Role = Me['role'];
const OF_STEWARDS: readonly RoleAct[] = ['look-after', 'book-for', 'exceed', 'change', 'see'];

/** Which roles may what: of places, on those within their reach. */
export const ACTS_OF_ROLE: Record<Role, readonly RoleAct[]> = {
  staff: [],
  steward: OF_STEWARDS,
  administrator: [...OF_STEWARDS, 'administer'],
};

/** Whose right is asked: an actor, or whoever something is looked at for. */
export type Asker = { kind: 'system' } | { kind?: 'person'; me: Pick<Me, 'acts' | 'keeps'> };

/** The places that somebody looks after, for looking them up. */
const reachOf = new WeakMap<readonly number[], ReadonlySet<number>>();
function isKept(keeps: Me['keeps'], placeId: number): boolean {
  if (keeps === null) return true;
  const reach = reachOf.get(keeps) ?? new Set(keeps);
  reachOf.set(keeps, reach);
  return reach.has(placeId);
}

/** Whether somebody may do something by their role. The system may all: what it does was judged before. */
export const may = <Of extends RoleAct>(asker: Asker, act: Of, thing: ThingOf[Of]): boolean =>
  asker.kind === 'system' ||
  (asker.me.acts.includes(act) && (typeof thing === 'string' || isKept(asker.me.keeps, thing)));

/** Whether somebody plans and answers for another, since they coordinate one of their teams. */
export const coordinates = ({ me }: Pick<PersonActor, 'me'>, personId: number): boolean =>
  me.coordinates.some(({ id }) => id === personId);

/** The roles that may do something, for those who look for people. */
export const rolesThatMay = (act: RoleAct): Role[] =>
  (Object.keys(ACTS_OF_ROLE) as Role[]).filter((role) => ACTS_OF_ROLE[role].includes(act));

/**
 * What somebody may by their role, and by what they look after for others, as it is told to their browser.
 * @param keeps the places they look after; null for all
 */
export const actsOf = (role: Role, keeps: Me['keeps']): RoleAct[] => [
  ...ACTS_OF_ROLE[role === 'staff' && keeps?.length !== 0 ? 'steward' : role],
];

const NOT_A_STEWARD = 'Only those who look after places can do this.';

/** @throws Refusal unless the actor looks after places */
export function requireSteward(actor: Actor): void {
  if (may(actor, 'look-after', 'some')) return;
  throw new Refusal('not-allowed', NOT_A_STEWARD);
}

/** @throws Refusal unless the actor looks after all of these, naming those that they do not */
export function requireKeeper(
  actor: Actor,
  places: readonly { id: number; name?: string | undefined }[],
): void {
  requireSteward(actor);
  const out = places.filter(({ id }) => !may(actor, 'look-after', id));
  if (out.length === 0) return;
  const named = out.slice(0, MOST_NAMED).flatMap(({ name }) => name ?? []);
  throw new Refusal(
    'not-allowed',
    named.length === 0
      ? NOT_A_STEWARD
      : `You do not look after ${listClauses(named)}. Whoever does can do this.`,
  );
}

/** @throws Refusal unless the actor administers the organization */
export function requireAdministrator(actor: Actor): void {
  if (may(actor, 'administer', 'organization')) return;
  throw new Refusal('not-allowed', 'Only administrators can do this.');
}

/**
 * What of a route's right is known before anything is read; whether this event, booking or date is one's own, and
 * whether this place is within reach, is judged with it.
 * @throws Refusal where nobody like the actor may
 */
export function requireRight(actor: Actor, right: Right): void {
  if (right === 'look-after places') requireSteward(actor);
  if (right === 'administer organization') requireAdministrator(actor);
}
