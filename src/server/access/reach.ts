import { Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { readReached } from './queries.ts';

/** A place as it is to be; its id is null where it is new. */
interface FuturePlace {
  id: number | null;
  siteId: number;
  floor: string;
  kind: string;
}

/** Which places an actor would look after, as they are to be: of each in order, whether they would. */
export const withinReach = (
  db: Database,
  { me }: PersonActor,
  places: readonly FuturePlace[],
): Promise<boolean[]> =>
  me.keeps === null || places.length === 0
    ? Promise.resolve(places.map(() => true))
    : readReached(
        db,
        me.id,
        places.map(({ id, siteId, floor, kind }) => ({ id, siteId, floor, kind })),
      );

/** What is said of a place that a steward would put out of their own reach, or into another's. */
export const OUT_OF_REACH = 'must stay among the places that you look after';

/** @throws Refusal unless the actor would look after a place as it is to be */
export async function requireWithinReach(
  db: Database,
  actor: PersonActor,
  place: FuturePlace,
): Promise<void> {
  const [isReached] = await withinReach(db, actor, [place]);
  if (isReached) return;
  throw new Refusal('not-allowed', 'You look after no place of that kind there.', {
    fields: ['siteId', 'floor', 'kind'].map((field) => ({ field, message: OUT_OF_REACH })),
  });
}
