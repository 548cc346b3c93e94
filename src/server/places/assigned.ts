import { MOST_FREE_DAYS } from '../../contract/limits.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { addDays, dateAt, startOfDay } from '../../core/time/wall.ts';
import { may, requireKeeper } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { commitThings } from '../facts/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { holdResources, readClaims, ResourcesTaken } from '../reservations/index.ts';
import { deleteFreeDay, insertFreeDay, readHolders, updateOwners } from './queries.ts';

/** A place that nobody else books meanwhile. */
async function held(tx: Transaction, id: number) {
  return (await holdResources(tx, [id], () => 'id')).get(id)!;
}

/**
 * Makes a place somebody's, or nobody's; what others have of it stays theirs.
 * @throws Refusal unless the actor looks after places; naming who is nobody
 */
export async function setOwner(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
  personId: number | null,
): Promise<void> {
  const { zone, name, rules } = await held(tx, id);
  requireKeeper(actor, [{ id, name }]);
  const today = dateAt(platform.clock.now(), zone);
  if (!(await updateOwners(tx, [{ id, ownerId: personId, today }])))
    throw invalid([{ field: 'personId', message: 'must be the id of a person' }]);
  const from = rules.assigned?.ownerId ?? null;
  if (from === personId) return;
  const edits = [{ path: 'ownerId', from, to: personId }];
  await commitThings(tx, platform, actor, [
    {
      fact: { thing: 'place', thingId: id, kind: 'place-changed', details: { name, edits } },
      edits,
    },
  ]);
}

/** The place, for whoever it belongs to, those who act for them, and those who look after places. */
async function ownedBy(tx: Transaction, actor: PersonActor, id: number) {
  const place = await held(tx, id);
  const { assigned } = place.rules;
  if (!assigned || !(actor.principals.includes(assigned.ownerId) || may(actor, 'look-after', id))) {
    throw new Refusal('not-theirs', `${place.name} is not yours to give free.`, {
      fields: [{ field: 'id', message: 'must be a place that is yours' }],
    });
  }
  return { ...place, assigned };
}

/**
 * Lets others have somebody's place on a day.
 * @throws Refusal unless it is the actor's to give; naming a day that is over, or too far ahead
 */
export async function giveFree(
  tx: Transaction,
  actor: PersonActor,
  id: number,
  date: string,
  now: number,
): Promise<void> {
  const { zone } = await ownedBy(tx, actor, id);
  const today = dateAt(now, zone);
  if (date < today || date > addDays(today, MOST_FREE_DAYS)) {
    throw invalid([
      { field: 'date', message: `must be from today on, at most ${MOST_FREE_DAYS} days ahead` },
    ]);
  }
  insertFreeDay(tx, id, date);
  announce(tx, [subjectOf('resource', id)]);
}

/**
 * Takes a day back that was given free, unless somebody else has some of it by now.
 * @throws Refusal unless it is the actor's to give; ResourcesTaken when somebody else has it
 */
export async function takeFreeDayBack(
  tx: Transaction,
  actor: PersonActor,
  id: number,
  date: string,
): Promise<void> {
  const { zone, assigned } = await ownedBy(tx, actor, id);
  const day = { start: startOfDay(date, zone), end: startOfDay(addDays(date, 1), zone) };
  const claims = (await readClaims(tx, [id], day)).filter((one) => one.reservationId !== null);
  const holders = await readHolders(
    tx,
    claims.flatMap((one) => one.reservationId ?? []),
  );
  const others = claims.filter(
    ({ reservationId }) => holders.get(reservationId!) !== assigned.ownerId,
  );
  if (others.length > 0) {
    // What somebody has of it then, for which another place is looked for.
    throw new ResourcesTaken(
      [
        {
          resourceId: id,
          recurrenceId: null,
          start: Math.max(day.start, Math.min(...others.map((one) => one.start))),
          end: Math.min(day.end, Math.max(...others.map((one) => one.end))),
        },
      ],
      { id: '', people: 1, resources: [id] },
      { field: 'date', message: 'must be a day that nobody else has it' },
    );
  }
  deleteFreeDay(tx, id, date);
  announce(tx, [subjectOf('resource', id)]);
}
