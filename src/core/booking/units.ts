import { overlaps, type Interval } from '../time/interval.ts';

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
