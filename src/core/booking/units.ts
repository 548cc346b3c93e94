import { merge, overlaps, type Interval } from '../time/interval.ts';

/** A claim on one of a resource's identical units, which are numbered from 1. */
export interface UnitClaim extends Interval {
  unit: number;
}

/**
 * The lowest unit number (1 to `units`) that is free for the whole span.
 * @param preferred the unit to keep if it is free
 * @returns null when all are taken
 */
export function freeUnit(
  taken: readonly UnitClaim[],
  span: Interval,
  units: number,
  preferred?: number,
): number | null {
  const isFree = (unit: number) =>
    !taken.some((claim) => claim.unit === unit && overlaps(claim, span));
  if (preferred !== undefined && preferred <= units && isFree(preferred)) return preferred;
  for (let unit = 1; unit <= units; unit++) {
    if (isFree(unit)) return unit;
  }
  return null;
}

/** How many of the units are free for the whole span. */
export const unitsLeft = (taken: readonly UnitClaim[], span: Interval, units: number): number =>
  units - new Set(taken.filter((claim) => overlaps(claim, span)).map(({ unit }) => unit)).size;

/**
 * Where some unit is free at every moment and none throughout: a booking that begins before `end` and
 * ends after `start` would have to change units there. `end` is not after `start`; `overlaps` holds for
 * just those bookings. With the times of `allUnitsTaken` they are all that a booking may not overlap.
 * Sorted by start.
 */
export function changeovers(claims: readonly UnitClaim[], units: number): Interval[] {
  if (units < 2) return [];
  const busy = Array.from({ length: units }, (_, k) =>
    merge(claims.filter((claim) => claim.unit === k + 1)),
  );
  // A booking that ends after an instant, and begins before the first of the units to come free of what
  // they have by then does, meets something in each of them.
  const reached = busy.map(() => -1);
  const found: Interval[] = [];
  const starts = busy.flatMap((spans, unit) => spans.map(({ start }) => ({ start, unit })));
  let last = Number.NEGATIVE_INFINITY;
  for (const { start, unit } of starts.sort((a, b) => a.start - b.start)) {
    reached[unit]!++;
    const end = Math.min(...reached.map((at, k) => busy[k]![at]?.end ?? Number.NEGATIVE_INFINITY));
    if (end <= last) continue;
    last = end;
    if (end <= start) found.push({ start, end });
  }
  return found;
}

/**
 * When every one of the units is taken, as disjoint sorted intervals.
 * Claims of one unit do not overlap; the exclusion constraint sees to that.
 */
export function allUnitsTaken(claims: readonly UnitClaim[], units: number): Interval[] {
  const changes = claims
    .flatMap(({ start, end }) => [
      { at: start, by: 1 },
      { at: end, by: -1 },
    ])
    .sort((a, b) => a.at - b.at || a.by - b.by);
  const full: Interval[] = [];
  let taken = 0;
  for (const { at, by } of changes) {
    taken += by;
    const last = full[full.length - 1];
    if (by === 1 && taken === units) {
      if (last?.end === at) last.end = Number.POSITIVE_INFINITY;
      else full.push({ start: at, end: Number.POSITIVE_INFINITY });
    } else if (by === -1 && taken === units - 1 && last) last.end = at;
  }
  return full;
}
