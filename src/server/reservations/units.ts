import { freeUnit, type UnitClaim } from '../../core/booking/units.ts';
import { DAY, type Interval } from '../../core/time/interval.ts';
import { NearIntervals } from '../../core/time/near.ts';
import { breather } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { readClaims, type HeldReservation, type ResourceClaim } from './queries.ts';
import type { ReservationRequest } from './request.ts';
import type { Placed } from './writeQueries.ts';

/** A wish that has nothing yet, or something at another time. */
export interface Changed {
  eventId: string;
  holderId: number | null;
  wish: ReservationRequest;
  span: Interval;
  held: HeldReservation | undefined;
  /** When somebody left it, where that still holds. */
  leftAt: number | null;
}

export const spanned = ({ wish, span }: Changed) => ({ resourceId: wish.resourceId, ...span });

/** What takes resources about the times of some wishes: a day around them is more than any buffer. */
export const readTaken = (
  tx: Transaction,
  spans: readonly (Interval & { resourceId: number })[],
): Promise<ResourceClaim[]> =>
  readClaims(tx, [...new Set(spans.map((one) => one.resourceId))], {
    start: spans.reduce((first, { start }) => Math.min(first, start), Infinity) - DAY,
    end: spans.reduce((last, { end }) => Math.max(last, end), -Infinity) + DAY,
  });

/** Finds a unit for each wish, in their order; what is found for one is taken for the next. */
export async function pickUnits(
  changed: readonly Changed[],
  resources: ReadonlyMap<number, { units: number }>,
  dropped: readonly HeldReservation[],
  taking: readonly ResourceClaim[],
) {
  // What is moved or given up does not stand in its own way.
  const own = new Set([
    ...changed.flatMap(({ held }) => held?.id ?? []),
    ...dropped.map((d) => d.id),
  ]);
  const claims = new Map(
    changed.map(({ wish }) => [wish.resourceId, new NearIntervals<UnitClaim>()]),
  );
  const breathe = breather();
  for (const claim of taking) {
    await breathe();
    if (claim.reservationId === null || !own.has(claim.reservationId))
      claims.get(claim.resourceId)?.add(claim);
  }
  const booked: (Changed & { placed: Omit<Placed, 'state'> })[] = [];
  const taken: Changed[] = [];
  for (const one of changed) {
    await breathe();
    const { wish, span, held } = one;
    const present = claims.get(wish.resourceId)!;
    const { units } = resources.get(wish.resourceId)!;
    const unit = freeUnit(present.overlapping(span), span, units, held?.unit);
    if (unit === null) {
      taken.push(one);
      continue;
    }
    present.add({ unit, ...span });
    const { occurrenceId, resourceId, start, end } = wish;
    const own = { start, end };
    const { holderId } = one;
    booked.push({ ...one, placed: { occurrenceId, resourceId, holderId, unit, own, ...span } });
  }
  return { booked, taken };
}
