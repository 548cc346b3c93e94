import { MINUTE, overlaps, type Interval } from '../time/interval.ts';

export type Closeness = 'overlap' | 'near';

const NEAR_MINUTES = 15;

/**
 * How a commitment stands to a proposed time: it overlaps, it ends or begins within a quarter hour
 * of it, or (null) it does not matter.
 */
export function closeness(commitment: Interval, proposed: Interval): Closeness | null {
  if (overlaps(commitment, proposed)) return 'overlap';
  const gap =
    commitment.start >= proposed.end
      ? commitment.start - proposed.end
      : proposed.start - commitment.end;
  return gap < NEAR_MINUTES * MINUTE ? 'near' : null;
}
