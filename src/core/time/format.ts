import { HOUR, MINUTE, type Interval } from './interval.ts';

export type ClockStyle = '24' | '12';

const formats = new Map<string, Intl.DateTimeFormat>();

function format(zone: string, options: Intl.DateTimeFormatOptions, locale = 'en-GB') {
  const key = `${zone}|${locale}|${JSON.stringify(options)}`;
  let found = formats.get(key);
  if (!found)
    formats.set(key, (found = new Intl.DateTimeFormat(locale, { ...options, timeZone: zone })));
  return found;
}

/** `14:05`, or `2:05 pm`; the instant in epoch milliseconds. */
export function formatTime(instant: number, zone: string, clock: ClockStyle = '24'): string {
  return clock === '24'
    ? format(zone, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(instant)
    : format(zone, { hour: 'numeric', minute: '2-digit', hourCycle: 'h12' }).format(instant);
}

/** `Thu 26 Nov`. */
export const formatDay = (instant: number, zone: string): string =>
  format(zone, { weekday: 'short', day: 'numeric', month: 'short' })
    .format(instant)
    .replace(',', '')
    .replace('Sept', 'Sep');

/** `Thursday 26 November 2026`. */
export const formatLongDay = (instant: number, zone: string): string =>
  format(zone, { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' })
    .format(instant)
    .replace(',', '');

const yearOf = (instant: number, zone: string) => format(zone, { year: 'numeric' }).format(instant);

/**
 * A day beside a moment, both in epoch milliseconds: `Fri 27 Nov`, and `Fri 27 Nov 2026` where the moment
 * lies in another year of the zone.
 */
export function formatDayNear(instant: number, beside: number, zone: string): string {
  const year = yearOf(instant, zone);
  return `${formatDay(instant, zone)}${year === yearOf(beside, zone) ? '' : ` ${year}`}`;
}

/**
 * A moment beside another in the reader's zone: `14:00` on the same day, else `Fri 27 Nov 14:00`, with the
 * year where that is another one. Both in epoch milliseconds.
 */
export function formatNear(
  instant: number,
  beside: number,
  { zone, clock }: { zone: string; clock: ClockStyle },
): string {
  const time = formatTime(instant, zone, clock);
  const isSameDay = formatLongDay(instant, zone) === formatLongDay(beside, zone);
  return isSameDay ? time : `${formatDayNear(instant, beside, zone)} ${time}`;
}

/**
 * Until when something lasts, beside a moment before its end: `until 15:00`, `until Fri 27 Nov 10:00`; what
 * ends with a day lasts `through Fri 27 Nov`, and on the moment's own day `until midnight`.
 */
export function untilWords(
  end: number,
  beside: number,
  reader: { zone: string; clock: ClockStyle },
): string {
  if (!isMidnight(end, reader.zone)) return `until ${formatNear(end, beside, reader)}`;
  const isSameDay = formatLongDay(end - 1, reader.zone) === formatLongDay(beside, reader.zone);
  return isSameDay ? 'until midnight' : `through ${formatDayNear(end - 1, beside, reader.zone)}`;
}

const isMidnight = (instant: number, zone: string) => formatTime(instant, zone) === '00:00';

/** From one midnight to another, on the zone's clock. */
const isWholeDays = (span: Interval, zone: string): boolean =>
  span.end > span.start && isMidnight(span.start, zone) && isMidnight(span.end, zone);

/**
 * `12:00–12:45` beside a day, that of its start unless another is given (as an instant in epoch
 * milliseconds): a start or an end on another day is named, whole days are `all day`.
 */
export function formatHours(
  span: Interval,
  zone: string,
  clock: ClockStyle = '24',
  beside = span.start,
): string {
  if (isWholeDays(span, zone)) return 'all day';
  const from = formatNear(span.start, beside, { zone, clock });
  // An end at midnight belongs to the day before it.
  const isSameDay = formatLongDay(span.end - 1, zone) === formatLongDay(beside, zone);
  const to = formatTime(span.end, zone, clock);
  return isSameDay ? `${from}–${to}` : `${from} – ${formatDayNear(span.end, beside, zone)} ${to}`;
}

/**
 * `Thu 26 Nov 12:00–12:45`; both days are named when the end falls on another one, and whole days are
 * `Thu 26 Nov, all day`.
 */
export function formatSpan(span: Interval, zone: string, clock: ClockStyle = '24'): string {
  if (isWholeDays(span, zone)) {
    const [first, last] = [formatDay(span.start, zone), formatDay(span.end - 1, zone)];
    return first === last ? `${first}, all day` : `${first} – ${last}, all day`;
  }
  const from = `${formatDay(span.start, zone)} ${formatTime(span.start, zone, clock)}`;
  // An end at midnight belongs to the day before it.
  const sameDay = formatDay(span.start, zone) === formatDay(span.end - 1, zone);
  const to = formatTime(span.end, zone, clock);
  return sameDay ? `${from}–${to}` : `${from} – ${formatDay(span.end, zone)} ${to}`;
}

/** `45 min`, `1 h`, `1 h 30 min`, `3 days`. */
export function formatLength(milliseconds: number): string {
  const days = milliseconds / (24 * HOUR);
  if (days >= 1 && Number.isInteger(days)) return days === 1 ? '1 day' : `${days} days`;
  const hours = Math.floor(milliseconds / HOUR);
  const minutes = Math.round((milliseconds % HOUR) / MINUTE);
  return [hours && `${hours} h`, minutes && `${minutes} min`].filter(Boolean).join(' ') || '0 min';
}

/** The city of a zone's name as people read it: `Europe/Oslo` is `Oslo`. */
export const zoneCity = (zone: string): string =>
  (zone.split('/').pop() ?? zone).replaceAll('_', ' ');

/** `UTC+1`, `UTC-4`, `UTC+5:30` at an instant. */
export function formatOffset(instant: number, zone: string): string {
  const parts = format(zone, { timeZoneName: 'shortOffset' }, 'en-US').formatToParts(instant);
  const name = parts.find((part) => part.type === 'timeZoneName')?.value ?? 'GMT';
  return name === 'GMT' ? 'UTC' : name.replace('GMT', 'UTC');
}

/** 645 as `10:45`, or `10:45 am`: minutes after midnight as a field of a time shows them. */
export const formatMinute = (minute: number, clock: ClockStyle): string =>
  formatTime(minute * MINUTE, 'UTC', clock);

/** A part of the day, in minutes after midnight: `between 12:00 and 17:00`, `from 15:00 on`, `until 12:00`. */
export function formatBetween(
  { from, to }: { from: number; to: number },
  clock: ClockStyle,
): string {
  const time = (minute: number) => formatMinute(minute, clock);
  if (to === 1440) return `from ${time(from)} on`;
  return from === 0 ? `until ${time(to)}` : `between ${time(from)} and ${time(to)}`;
}
