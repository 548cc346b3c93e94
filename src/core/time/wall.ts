import { Temporal } from 'temporal-polyfill';
import { yearlyOffset } from './yearlyOffset.ts';

/**
 * Wall time is what a clock on the wall shows: `YYYY-MM-DDTHH:mm`, without a zone.
 * Together with a zone it means an instant, except where a clock change skips or repeats it.
 */
export type WallTime = string;

/** Which of two instants is meant when a clock change shows the same wall time twice. */
export type Fold = 'earlier' | 'later';

export interface ResolvedWallTime {
  /** Epoch milliseconds. */
  instant: number;
  /** The wall time that the clock really shows at `instant`; differs from the input when skipped. */
  wall: WallTime;
  /** `skipped`: the clock jumped over it; `repeated`: the clock shows it twice. */
  kind: 'exact' | 'skipped' | 'repeated';
}

const WALL_TIME = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/;

/**
 * Whether a zone can be reckoned with, under whatever name; what other programs write is read so. Zones
 * that a time can be given in here are fewer, see `zones.ts`.
 */
export function isReadableZone(zone: string): boolean {
  if (zone.length > LONGEST_NAME) return false;
  let isReadable = readable.get(zone);
  if (isReadable === undefined) {
    // Names come from outside, and so without end.
    if (readable.size >= MOST_NAMES_KEPT) readable.clear();
    readable.set(zone, (isReadable = canBeRead(zone)));
  }
  return isReadable;
}

/** Finding out costs a tenth of a millisecond, and a calendar asks for each of its times. */
const readable = new Map<string, boolean>();
const MOST_NAMES_KEPT = 500;
const LONGEST_NAME = 100;

function canBeRead(zone: string): boolean {
  if (!/^[A-Za-z][A-Za-z0-9_+\-/]*$/.test(zone)) return false;
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
}

/** True for `YYYY-MM-DDTHH:mm` naming a day that the calendar has. */
export function isWallTime(text: string): boolean {
  if (!WALL_TIME.test(text)) return false;
  try {
    Temporal.PlainDateTime.from(text, { overflow: 'reject' });
    return true;
  } catch {
    return false;
  }
}

/** True for `YYYY-MM-DD` naming a day that the calendar has. */
export const isDate = (text: string): boolean =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) && isWallTime(`${text}T00:00`);

const wallOf = (time: Temporal.PlainDateTime): WallTime =>
  time.toString({ smallestUnit: 'minute', calendarName: 'never' });

/**
 * The instant that a wall time means in a zone.
 * A skipped time is read with the offset before the change, so 02:30 in a spring gap is 03:30;
 * a repeated one is the earlier of the two unless `fold` says otherwise (RFC 5545 section 3.3.5).
 * @throws RangeError when the wall time or the zone is not valid
 */
export function resolveWallTime(
  wall: WallTime,
  zone: string,
  fold: Fold = 'earlier',
): ResolvedWallTime {
  const local = localOf(wall);
  const offset = local === null ? null : yearlyOffset(zone, local);
  if (offset !== null) return { instant: local! - offset, wall, kind: 'exact' };
  const plain = Temporal.PlainDateTime.from(wall, { overflow: 'reject' });
  const earlier = plain.toZonedDateTime(zone, { disambiguation: 'earlier' });
  const later = plain.toZonedDateTime(zone, { disambiguation: 'later' });
  if (earlier.epochMilliseconds === later.epochMilliseconds) {
    return { instant: earlier.epochMilliseconds, wall: wallOf(plain), kind: 'exact' };
  }
  // In a gap Temporal's "later" applies the offset before the change, which is what RFC 5545 asks.
  const skipped = !earlier.toPlainDateTime().equals(plain);
  const chosen = skipped || fold === 'later' ? later : earlier;
  return {
    instant: chosen.epochMilliseconds,
    wall: wallOf(chosen.toPlainDateTime()),
    kind: skipped ? 'skipped' : 'repeated',
  };
}

/** A wall time's milliseconds, read as if it were UTC; null where it is none. */
function localOf(wall: WallTime): number | null {
  if (!WALL_TIME.test(wall)) return null;
  const local = Date.parse(`${wall}Z`);
  // A day that the calendar does not have is another day here.
  return Number.isNaN(local) || textOf(local) !== wall ? null : local;
}

const textOf = (local: number): WallTime => new Date(local).toISOString().slice(0, 16);

/** What the clock of a zone shows at an instant (epoch milliseconds), to the minute. */
export function wallTimeAt(instant: number, zone: string): WallTime {
  const offset = yearlyOffset(zone, instant);
  if (offset !== null) return textOf(instant + offset);
  const zoned = Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(zone);
  return wallOf(zoned.toPlainDateTime());
}

/** The date `YYYY-MM-DD` in a zone at an instant (epoch milliseconds). */
export const dateAt = (instant: number, zone: string): string =>
  wallTimeAt(instant, zone).slice(0, 10);

/** The date `days` after `date`; negative goes back. */
export const addDays = (date: string, days: number): string =>
  Temporal.PlainDate.from(date).add({ days }).toString();

/** The date `months` after `date`; the last day of a month that is too short for it. */
export const addMonths = (date: string, months: number): string =>
  Temporal.PlainDate.from(date).add({ months }).toString();

/** 1 for Monday to 7 for Sunday (ISO 8601). */
export const weekdayOf = (date: string): number => Temporal.PlainDate.from(date).dayOfWeek;

/** The first instant of a date in a zone, epoch milliseconds; usually but not always 00:00. */
export const startOfDay = (date: string, zone: string): number =>
  Temporal.PlainDate.from(date).toZonedDateTime(zone).epochMilliseconds;

/** The Monday (or other first day, 1 to 7) on or before `date`. */
export const startOfWeek = (date: string, firstDay = 1): string =>
  addDays(date, -((weekdayOf(date) - firstDay + 7) % 7));

/** Days from `from` to `to`; negative when `to` is earlier. */
export const daysBetween = (from: string, to: string): number =>
  Temporal.PlainDate.from(from).until(Temporal.PlainDate.from(to), { largestUnit: 'day' }).days;
