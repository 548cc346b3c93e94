import { clip, gaps, overlaps, sorted, type Interval } from '../time/interval.ts';

/**
 * What some hours leave free of what is taken, as far as a piece is long enough.
 * @param taken in any order, overlapping as they like
 * @param hours disjoint and sorted
 * @param leastMs pieces shorter than this are left out
 * @returns disjoint and sorted
 */
export function freePieces(
  taken: readonly Interval[],
  hours: readonly Interval[],
  leastMs: number,
): Interval[] {
  return hours
    .flatMap((span) => gaps(sorted(taken.flatMap((one) => clip(one, span) ?? [])), span))
    .filter((piece) => piece.end - piece.start >= leastMs);
}

/** The longest of some pieces, the first where several are; null where there is none. */
export const longestOf = (pieces: readonly Interval[]): Interval | null =>
  pieces.reduce<Interval | null>(
    (best, one) => (best && best.end - best.start >= one.end - one.start ? best : one),
    null,
  );

/** For each of some things, the others that happen at the same time; those that have none are left out. */
export function collisionsOf<Thing extends Interval>(
  things: readonly Thing[],
): ReadonlyMap<Thing, readonly Thing[]> {
  return new Map(
    things.flatMap((one) => {
      const others = things.filter((other) => other !== one && overlaps(one, other));
      return others.length > 0 ? [[one, others] as const] : [];
    }),
  );
}
