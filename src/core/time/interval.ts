/** A span of time, half-open: `start` belongs to it, `end` does not. Instants in epoch milliseconds. */
export interface Interval {
  start: number;
  end: number;
}

export const MINUTE = 60_000;
export const HOUR = 60 * MINUTE;
export const DAY = 24 * HOUR;

/** True when the two share at least one instant; touching ends do not. */
export const overlaps = (a: Interval, b: Interval): boolean => a.start < b.end && b.start < a.end;

export const contains = (outer: Interval, inner: Interval): boolean =>
  outer.start <= inner.start && inner.end <= outer.end;

/** The part of `interval` inside `window`, or null when nothing is left. */
export function clip(interval: Interval, window: Interval): Interval | null {
  const start = Math.max(interval.start, window.start);
  const end = Math.min(interval.end, window.end);
  return start < end ? { start, end } : null;
}

/** Sorted by start; returns the input itself when it already is. */
export function sorted<T extends Interval>(intervals: readonly T[]): readonly T[] {
  for (let i = 1; i < intervals.length; i++) {
    if (intervals[i]!.start < intervals[i - 1]!.start) {
      return [...intervals].sort((a, b) => a.start - b.start || a.end - b.end);
    }
  }
  return intervals;
}

/** The union as the fewest disjoint intervals, sorted; touching ones are joined, empty ones dropped. */
export function merge(intervals: readonly Interval[]): Interval[] {
  const union: Interval[] = [];
  for (const { start, end } of sorted(intervals)) {
    if (start >= end) continue;
    const last = union[union.length - 1];
    if (last && start <= last.end) last.end = Math.max(last.end, end);
    else union.push({ start, end });
  }
  return union;
}

/** What of `window` is not covered by `intervals`, sorted. */
export function gaps(intervals: readonly Interval[], window: Interval): Interval[] {
  const free: Interval[] = [];
  let from = window.start;
  for (const { start, end } of merge(intervals)) {
    if (end <= window.start) continue;
    if (start >= window.end) break;
    if (start > from) free.push({ start: from, end: start });
    from = Math.max(from, end);
  }
  if (from < window.end) free.push({ start: from, end: window.end });
  return free;
}

/** Milliseconds that `interval` shares with the disjoint, sorted `union`. */
export function sharedWith(union: readonly Interval[], interval: Interval): number {
  let shared = 0;
  for (const part of union) {
    if (part.start >= interval.end) break;
    shared += Math.max(0, Math.min(part.end, interval.end) - Math.max(part.start, interval.start));
  }
  return shared;
}

/** Index of the first of a disjoint, sorted list that ends after an instant; its length where none does. */
export function firstEndingAfter(union: readonly Interval[], instant: number): number {
  let low = 0;
  let high = union.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (union[middle]!.end <= instant) low = middle + 1;
    else high = middle;
  }
  return low;
}
