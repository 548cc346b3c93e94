import { Temporal } from 'temporal-polyfill';
import { DAY, type Interval } from './interval.ts';

/**
 * A zone's offsets over a window, so that converting many times is plain arithmetic.
 * Segment k holds from `starts[k]` (inclusive) until `starts[k + 1]`; offsets are milliseconds
 * to add to an instant to get local milliseconds (wall time read as if it were UTC).
 */
export interface ZoneTable {
  zone: string;
  starts: number[];
  offsets: number[];
}

const offsetMs = (instant: number, zone: string): number =>
  Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(zone).offsetNanoseconds / 1e6;

/** Reading a zone costs as much as planning for ten people; the last ones read are kept. */
const lately = new Map<string, ZoneTable>();
const MOST_KEPT = 256;

const MARGIN = 17 * DAY;

/**
 * A zone's offsets for a window and 17 days on either side of it. The same object for the same
 * question asked again; it must not be changed.
 * @throws RangeError when the zone is not known
 */
export function zoneTable(zone: string, window: Interval): ZoneTable {
  const key = `${zone} ${window.start} ${window.end}`;
  let table = lately.get(key);
  if (!table) {
    if (lately.size >= MOST_KEPT) lately.clear();
    lately.set(key, (table = readZone(zone, window)));
  }
  return table;
}

function readZone(zone: string, window: Interval): ZoneTable {
  const from = window.start - MARGIN;
  const to = window.end + MARGIN;
  const starts = [Number.NEGATIVE_INFINITY];
  const offsets = [offsetMs(from, zone)];
  let at = Temporal.Instant.fromEpochMilliseconds(from).toZonedDateTimeISO(zone);
  for (;;) {
    const next = at.getTimeZoneTransition('next');
    if (!next || next.epochMilliseconds >= to) break;
    starts.push(next.epochMilliseconds);
    offsets.push(next.offsetNanoseconds / 1e6);
    at = next;
  }
  return { zone, starts, offsets };
}

/** A lookup that reads each zone once. */
export function zoneTables(window: Interval): (zone: string) => ZoneTable {
  const known = new Map<string, ZoneTable>();
  return (zone) => {
    let table = known.get(zone);
    if (!table) known.set(zone, (table = zoneTable(zone, window)));
    return table;
  };
}

/** Offset in milliseconds at an instant of the table's window. */
export function offsetAt(table: ZoneTable, instant: number): number {
  let k = table.starts.length - 1;
  while (table.starts[k]! > instant) k--;
  return table.offsets[k]!;
}

/** Local milliseconds at an instant. */
export const toLocal = (table: ZoneTable, instant: number): number =>
  instant + offsetAt(table, instant);

const BLOCK = 32 * DAY;

/**
 * Local milliseconds of a zone at an instant, for one question by itself: what is read of the zone is kept
 * for other instants nearby.
 * @throws RangeError when the zone is not known
 */
export function localAt(zone: string, instant: number): number {
  const start = Math.floor(instant / BLOCK) * BLOCK;
  return toLocal(zoneTable(zone, { start, end: start + BLOCK }), instant);
}

/**
 * The instant of local milliseconds: a repeated time is the earlier one, a skipped time is read
 * with the offset before the change (RFC 5545 section 3.3.5), as `resolveWallTime` does.
 */
export function toInstant(table: ZoneTable, local: number): number {
  const { starts, offsets } = table;
  for (let k = 0; ; k++) {
    const instant = local - offsets[k]!;
    const next = starts[k + 1];
    if (next !== undefined && instant >= next) continue;
    return instant >= starts[k]! ? instant : local - offsets[k - 1]!;
  }
}

/** Instants inside the window at which the zone changes its clock, with the change in minutes. */
export function clockChanges(
  table: ZoneTable,
  window: Interval,
): { instant: number; minutes: number }[] {
  return table.starts.flatMap((instant, k) =>
    k > 0 && instant >= window.start && instant < window.end
      ? [{ instant, minutes: (table.offsets[k]! - table.offsets[k - 1]!) / 60_000 }]
      : [],
  );
}
