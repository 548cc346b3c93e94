import { happenings, timingInterval } from '../../core/recurrence/series.ts';
import type { Interval } from '../../core/time/interval.ts';
import { addMonths, dateAt, startOfDay, type WallTime } from '../../core/time/wall.ts';
import type { Transaction } from '../db/transaction.ts';
import { bookUnits, ResourcesTaken } from '../places/service.ts';
import {
  addOccurrences,
  deleteClaims,
  insertPeopleClaims,
  insertResourceClaims,
  readWantedResources,
  syncOccurrences,
  type WantedResource,
} from './claimQueries.ts';
import { isSeries, planOf, type EventRecord } from './model.ts';
import { keepUntil } from './horizonQueries.ts';

/** How far ahead the occurrences of series are kept. */
export const HORIZON_MONTHS = 24;

/** Occurrences that start before this are kept. Epoch milliseconds. */
export const horizonAt = (now: number): number =>
  startOfDay(addMonths(dateAt(now, 'UTC'), HORIZON_MONTHS), 'UTC');

const BEGINNING = Date.UTC(2000, 0, 1) - 86_400_000;

/**
 * Brings an event's occurrences and claims in line with what it says.
 * Resources of occurrences that are over and cannot be had any more are let go.
 * @throws ResourcesTaken naming every occurrence to come for which a resource is taken
 */
export async function layOut(tx: Transaction, event: EventRecord, now: number): Promise<void> {
  if (isSeries(event)) {
    const first = timingInterval(event.whole).start;
    const until = Math.max(event.keptUntil ?? 0, horizonAt(Math.max(now, first)));
    await syncOccurrences(
      tx,
      event.id,
      happenings(planOf(event), { start: BEGINNING, end: until }),
    );
    await keepUntil(tx, event.id, until);
  } else {
    const span = timingInterval(event.whole);
    await syncOccurrences(tx, event.id, [{ recurrenceId: null, ...span }]);
    await keepUntil(tx, event.id, null);
  }
  await claimAnew(tx, event, now);
}

/**
 * Claims the time of an event's people and resources as it stands.
 * @throws ResourcesTaken
 */
export async function claimAnew(tx: Transaction, event: EventRecord, now: number): Promise<void> {
  await deleteClaims(tx, event.id);
  if (event.status === 'cancelled') return;
  const taken = await claimResources(tx, event.id);
  const toCome = taken.filter((one) => one.end > now);
  if (toCome.length > 0) throw new ResourcesTaken(toCome);
  await insertPeopleClaims(tx, [event.id]);
}

/** @returns what could not be claimed, because it is taken */
async function claimResources(
  tx: Transaction,
  eventId: string,
  since: WallTime | null = null,
): Promise<WantedResource[]> {
  const wanted = await readWantedResources(tx, eventId, since);
  const { booked, taken } = await bookUnits(tx, wanted);
  await insertResourceClaims(tx, booked);
  return taken;
}

/**
 * Adds a series' occurrences up to a new horizon, with all claims that can be had.
 * @returns the resources that are taken, by occurrence
 */
export async function extend(
  tx: Transaction,
  event: EventRecord & { rule: string },
  until: number,
): Promise<WantedResource[]> {
  const window: Interval = { start: event.keptUntil ?? BEGINNING, end: until };
  const added = happenings(planOf(event), window);
  await keepUntil(tx, event.id, until);
  const since = added.map((one) => one.recurrenceId).sort()[0];
  if (!since) return [];
  await addOccurrences(tx, event.id, added);
  const taken = await claimResources(tx, event.id, since);
  await insertPeopleClaims(tx, [event.id], { since });
  return taken;
}
