import type { BookingsElsewhere, OutOfUse } from '../../contract/closures.ts';
import { MOST_OUT_OF_USE } from '../../contract/limits.ts';
import { requireKeeper, requireSteward, titleIn, titlesSeen } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { datesThatGoBack } from '../events/index.ts';
import { readChangeOfClosure, readDates, readOutOfUse } from './queries.ts';

/** What is out of use from now on, and what is retired. @throws Refusal unless the actor looks after places */
export async function listOutOfUse(
  db: Database,
  actor: PersonActor,
  now: number,
): Promise<{ places: OutOfUse[]; more: boolean }> {
  requireSteward(actor);
  const places = await readOutOfUse(db, now, actor.me.keeps, MOST_OUT_OF_USE + 1);
  return { places: places.slice(0, MOST_OUT_OF_USE), more: places.length > MOST_OUT_OF_USE };
}

/**
 * The bookings that went elsewhere when a place went out of use, as far as they are still to come and nobody
 * chose anything else for them since.
 * @throws Refusal unless the actor looks after places
 */
export async function listElsewhere(
  db: Database,
  actor: PersonActor,
  placeId: number,
  closureId: number,
  now: number,
): Promise<BookingsElsewhere> {
  requireKeeper(actor, [{ id: placeId }]);
  const change = await readChangeOfClosure(db, placeId, closureId);
  if (!change) return { change: null, bookings: [] };
  const going = await datesThatGoBack(db, change.meetings, now);
  const dates = await readDates(
    db,
    [...going].flatMap(([eventId, some]) => some.map((occurrence) => ({ eventId, occurrence }))),
  );
  const seen = await titlesSeen(
    db,
    actor,
    dates.map((one) => one.eventId),
  );
  return {
    change: change.id,
    bookings: dates.map((one) => {
      const { start, end, holder, places } = one;
      return { ...{ start, end, holder, places }, title: titleIn(seen, one) };
    }),
  };
}
