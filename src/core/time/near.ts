import { DAY, overlaps, type Interval } from './interval.ts';

/** Longer ones are kept apart: in how many days they lie would be without end. */
const LONG = 40 * DAY;

/**
 * Intervals by the days in which they lie (UTC), so that those near a time are found without looking at the
 * others: adding one and asking cost what lies near, however many there are.
 */
export class NearIntervals<One extends Interval> {
  private readonly days = new Map<number, One[]>();
  private readonly long: One[] = [];

  constructor(intervals: Iterable<One> = []) {
    for (const one of intervals) this.add(one);
  }

  add(one: One): void {
    if (one.end - one.start > LONG) {
      this.long.push(one);
      return;
    }
    for (const day of daysOf(one)) {
      const there = this.days.get(day);
      if (there) there.push(one);
      else this.days.set(day, [one]);
    }
  }

  /** Those that overlap a span, each once. */
  overlapping(span: Interval): One[] {
    const found = new Set<One>(this.long.filter((one) => overlaps(one, span)));
    for (const day of daysOf(span))
      for (const one of this.days.get(day) ?? []) if (overlaps(one, span)) found.add(one);
    return [...found];
  }
}

function* daysOf({ start, end }: Interval): Generator<number> {
  const last = Math.floor(Math.max(start, end - 1) / DAY);
  for (let day = Math.floor(start / DAY); day <= last; day++) yield day;
}
