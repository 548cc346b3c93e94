import type { BusyInterval, BusyState } from './busy.ts';

/** How somebody's time is at a moment, and until when it stays so. */
export interface StateNow {
  state: 'free' | BusyState;
  /** Epoch milliseconds; null where it does not change before what is known ends. */
  until: number | null;
}

/**
 * How somebody's time is at an instant. What follows at once of the same kind counts as one; of what
 * overlaps, the gravest counts.
 * @param busy half-open spans in any order, epoch milliseconds
 */
export function stateNow(busy: readonly BusyInterval[], now: number): StateNow {
  const at = (instant: number): StateNow['state'] => {
    const there = busy.filter((span) => span.start <= instant && instant < span.end);
    return GRAVEST.find((state) => there.some((span) => span.occupancy === state)) ?? 'free';
  };
  const state = at(now);
  const changes = [...new Set(busy.flatMap(({ start, end }) => [start, end]))]
    .filter((instant) => instant > now)
    .sort((a, b) => a - b);
  return { state, until: changes.find((instant) => at(instant) !== state) ?? null };
}

const GRAVEST: BusyState[] = ['away', 'busy', 'barred', 'unknown', 'tentative'];
