import { barredTime } from '../../core/booking/rules.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { readResources, readTeams } from '../reservations/index.ts';

/** Who would book the places that are asked for, and when they ask; epoch milliseconds. */
export interface Asking {
  actor: PersonActor;
  now: number;
}

/**
 * When the rules of places give them to none of somebody's bookings, by place; see `barredTime`.
 * Whoever looks after places is bound by none.
 */
export async function readBarred(
  db: Database,
  ids: readonly number[],
  window: Interval,
  { actor, now }: Asking,
): Promise<ReadonlyMap<number, Interval[]>> {
  const { id, role } = actor.me;
  if (role !== 'staff' || ids.length === 0) return new Map();
  const [places, teams] = await Promise.all([readResources(db, ids), readTeams(db, id)]);
  const booker = { id, isSteward: false, teams };
  return new Map(
    [...places.values()].map((place) => [
      place.id,
      barredTime(place.rules, window, booker, { zone: place.zone, now }),
    ]),
  );
}
