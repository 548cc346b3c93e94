import { DAY, MINUTE, merge, type Interval } from '../time/interval.ts';
import { toInstant, type ZoneTable } from '../time/zoneTable.ts';

/** How full each of a run of days is. */
export interface Fullness {
  /** Minutes taken, overlaps counted once. */
  minutes: number[];
  /** Spans that touch the day. */
  counts: number[];
}

/**
 * Minutes taken and number of spans on each of `days` local days.
 * @param spans time taken; whole days are counted, but take no minutes
 * @param firstMidnight local milliseconds of the first day's midnight
 */
export function fullness(
  spans: readonly (Interval & { allDay: boolean })[],
  table: ZoneTable,
  firstMidnight: number,
  days: number,
): Fullness {
  const starts = Array.from({ length: days + 1 }, (_, k) =>
    toInstant(table, firstMidnight + k * DAY),
  );
  const minutes = new Array<number>(days).fill(0);
  const counts = new Array<number>(days).fill(0);
  const forEachDay = (span: Interval, visit: (day: number, shared: number) => void) => {
    let day = Math.max(0, Math.floor((span.start - starts[0]!) / DAY) - 1);
    while (day < days && starts[day + 1]! <= span.start) day++;
    for (; day < days && starts[day]! < span.end; day++) {
      const shared = Math.min(span.end, starts[day + 1]!) - Math.max(span.start, starts[day]!);
      visit(day, shared);
    }
  };
  for (const span of spans) forEachDay(span, (day) => counts[day]!++);
  for (const span of merge(spans.filter((one) => !one.allDay))) {
    forEachDay(span, (day, shared) => (minutes[day]! += shared / MINUTE));
  }
  return { minutes, counts };
}
