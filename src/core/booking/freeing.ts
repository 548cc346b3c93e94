import { merge, type Interval } from '../time/interval.ts';
import { allUnitsTaken, changeovers, type UnitClaim } from './units.ts';

/** When no booking can have a resource: every unit taken, and where it would have to change units. */
export interface UnitTimes {
  /** Disjoint, sorted. */
  full: Interval[];
  /** See `changeovers`. */
  changes: Interval[];
}

/** Claims of each unit, preparing and clearing included, merged where they meet. */
export function mergedUnits(claims: readonly UnitClaim[]): UnitClaim[] {
  const units = new Map<number, Interval[]>();
  for (const { unit, start, end } of claims) {
    const spans = units.get(unit);
    if (spans) spans.push({ start, end });
    else units.set(unit, [{ start, end }]);
  }
  return [...units].flatMap(([unit, spans]) => merge(spans).map((span) => ({ ...span, unit })));
}

const timesOf = (claims: readonly UnitClaim[], units: number): UnitTimes => {
  const taken = mergedUnits(claims);
  return { full: allUnitsTaken(taken, units), changes: changeovers(taken, units) };
};

/** What of a resource's times goes, and what comes in its place, when one booking is not there. */
export interface Freed {
  goes: UnitTimes;
  comes: UnitTimes;
}

/**
 * What becomes free when some of a resource's claims are not there: its times as they are known lose just
 * `goes` and gain `comes`, so that whatever others have stays taken.
 * @param others the other claims, preparing and clearing included
 * @param own those that are not there
 * @param units how many identical units it has
 */
export function freedBy(
  others: readonly UnitClaim[],
  own: readonly UnitClaim[],
  units: number,
): Freed {
  const [before, after] = [timesOf([...others, ...own], units), timesOf(others, units)];
  return {
    goes: { full: minus(before.full, after.full), changes: minus(before.changes, after.changes) },
    comes: { full: minus(after.full, before.full), changes: minus(after.changes, before.changes) },
  };
}

const keyOf = ({ start, end }: Interval): string => `${start} ${end}`;

/** Those of some spans that are not among others, to the millisecond. */
export function minus<Span extends Interval>(
  spans: readonly Span[],
  others: readonly Interval[],
): Span[] {
  const gone = new Set(others.map(keyOf));
  return spans.filter((span) => !gone.has(keyOf(span)));
}
