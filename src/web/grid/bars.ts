import type { Interval } from '../../core/time/interval.ts';

export interface Bar<T> {
  item: T;
  /** Index of the first and the last day it covers, of those shown. */
  from: number;
  to: number;
  lane: number;
  /** Whether it began before, or goes on after, the days shown. */
  before: boolean;
  after: boolean;
}

/**
 * Lays spans of days into lanes, longest first, so that none overlaps another in its lane.
 * @param days the days shown, in order; they may have gaps between them
 */
export function layOutBars<T extends Interval>(
  items: readonly T[],
  days: readonly Interval[],
): Bar<T>[] {
  const lanes: number[] = [];
  return items
    .flatMap((item) => {
      const from = days.findIndex((day) => item.end > day.start && item.start < day.end);
      if (from < 0) return [];
      const to = days.findLastIndex((day) => item.end > day.start && item.start < day.end);
      const before = item.start < days[from]!.start;
      return [{ item, from, to, lane: 0, before, after: item.end > days[to]!.end }];
    })
    .sort((a, b) => a.from - b.from || b.to - a.to || a.item.start - b.item.start)
    .map((bar) => {
      const free = lanes.findIndex((last) => last < bar.from);
      const lane = free < 0 ? lanes.length : free;
      lanes[lane] = bar.to;
      return { ...bar, lane };
    });
}
