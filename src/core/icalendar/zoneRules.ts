import type ICAL from 'ical.js';
import { DAY } from '../time/interval.ts';
import type { ZoneTable } from '../time/zoneTable.ts';

/** Real zones need a few dozen; a clock that changes every month for 33 years has 400. */
export const MOST_OBSERVANCES = 400;
/** Changes of a clock that are named one by one (RDATE), all observances together. */
const MOST_NAMED = 2_000;
/** Years of changes that are worked out at once: what is asked for is shorter. */
const MOST_YEARS = 40;
/** Changes by one rule in a year: clocks that people live by change twice, each way by a rule of its own. */
const MOST_A_YEAR = 12;
/** Changes in all of what is asked for. */
const MOST_CHANGES = 2_000;

const WEEKDAYS = ['SU', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA'];

/** The parts of a rule by which clocks change; all others are of no clock that people live by. */
const KNOWN_PARTS = new Set([
  'FREQ',
  'INTERVAL',
  'COUNT',
  'UNTIL',
  'BYMONTH',
  'BYMONTHDAY',
  'BYDAY',
  'WKST',
]);

/** On which days of a year a clock changes. */
interface YearlyChange {
  interval: number;
  /** How many years there are of it, each with one change; null for ever. */
  count: number | null;
  /** The last moment, milliseconds; null for ever. As UTC where `untilIsUtc`, else as local time. */
  until: number | null;
  untilIsUtc: boolean;
  months: number[];
  monthDays: number[];
  days: { weekday: number; nth: number | null }[];
}

/** STANDARD or DAYLIGHT of a VTIMEZONE (RFC 5545 section 3.6.5); times are local milliseconds. */
interface Observance {
  /** When it begins for the first time. */
  onset: number;
  /** Offsets before and after it begins, milliseconds. */
  from: number;
  to: number;
  yearly: YearlyChange | null;
  /** Further times at which it begins. */
  named: number[];
}

const unreadable = (tzid: string, why: string) =>
  new Error(`The clock of the zone “${tzid.slice(0, 60)}” cannot be read: ${why}.`);

/**
 * Reads what a VTIMEZONE says of its clock, as a table over a window. Changes are worked out year by year
 * from the rule, at most one look at each day of the years asked for: nothing is ever expanded from where a
 * rule begins.
 * @param window epoch milliseconds, half-open; so long as a zone is explained, MOST_YEARS at most
 * @throws Error with a sentence when it changes by anything but yearly rules and named times, or too often
 */
export function explainedZone(
  explained: ICAL.Component,
  window: { start: number; end: number },
): ZoneTable {
  const tzid = String(explained.getFirstPropertyValue('tzid') ?? '');
  if (!(window.end - window.start <= MOST_YEARS * 366 * DAY))
    throw unreadable(tzid, 'it is asked for too long a time');
  const changes = observancesOf(explained, tzid)
    .flatMap((one) => onsetsIn(one, window, tzid).map((at) => ({ at, from: one.from, to: one.to })))
    .sort((a, b) => a.at - b.at);
  if (changes.length > MOST_CHANGES)
    throw unreadable(tzid, `it changes more than ${MOST_CHANGES} times`);
  if (changes.length === 0) throw unreadable(tzid, 'it says no offset');
  const starts = [Number.NEGATIVE_INFINITY];
  const offsets = [changes[0]!.from];
  for (const { at, to } of changes) {
    if (at === starts.at(-1)) offsets[offsets.length - 1] = to;
    else if (to !== offsets.at(-1)) {
      starts.push(at);
      offsets.push(to);
    }
  }
  return { zone: tzid, starts, offsets };
}

function observancesOf(explained: ICAL.Component, tzid: string): Observance[] {
  const parts = ['standard', 'daylight'].flatMap((name) => explained.getAllSubcomponents(name));
  if (parts.length > MOST_OBSERVANCES)
    throw unreadable(tzid, `it changes in more than ${MOST_OBSERVANCES} ways`);
  const read = parts.map((part) => observanceOf(part, tzid));
  if (read.reduce((sum, one) => sum + one.named.length, 0) > MOST_NAMED)
    throw unreadable(tzid, `it names more than ${MOST_NAMED} changes`);
  return read;
}

function observanceOf(part: ICAL.Component, tzid: string): Observance {
  const offset = (name: string) => {
    const value = part.getFirstPropertyValue(name) as { toSeconds?: () => number } | null;
    const seconds = value?.toSeconds?.();
    if (seconds === undefined || !Number.isFinite(seconds) || Math.abs(seconds) > 86_400)
      throw unreadable(tzid, `${name.toUpperCase()} is no offset`);
    return seconds * 1000;
  };
  const onset = localOf(part.getFirstPropertyValue('dtstart'));
  if (onset === null) throw unreadable(tzid, 'DTSTART is no time');
  if (part.getAllProperties('rrule').length > 1)
    throw unreadable(tzid, 'a change has more than one rule');
  const rule = part.getFirstPropertyValue('rrule');
  const named = part
    .getAllProperties('rdate')
    .flatMap((one) => one.getValues() as unknown[])
    .flatMap((value) => localOf(value) ?? []);
  return {
    onset,
    from: offset('tzoffsetfrom'),
    to: offset('tzoffsetto'),
    yearly: rule ? yearlyOf(String(rule), tzid) : null,
    named,
  };
}

/** A time as it is written, in milliseconds as if it were UTC; null for anything else. */
function localOf(value: unknown): number | null {
  const text = String(value ?? '').slice(0, 19);
  const local = Date.parse(`${text.length === 10 ? `${text}T00:00:00` : text}Z`);
  return Number.isNaN(local) ? null : local;
}

function yearlyOf(text: string, tzid: string): YearlyChange {
  const parts = new Map(
    text.split(';').map((part): [string, string] => {
      const at = part.indexOf('=');
      return [part.slice(0, at).toUpperCase(), part.slice(at + 1).toUpperCase()];
    }),
  );
  if (parts.get('FREQ') !== 'YEARLY' || [...parts.keys()].some((name) => !KNOWN_PARTS.has(name)))
    throw unreadable(
      tzid,
      `it changes by “${text.slice(0, 80)}”, and only yearly rules by months and days are read`,
    );
  const whole = (name: string, least: number, most: number): number[] => {
    const values = parts.get(name)?.split(',').map(Number) ?? [];
    if (values.some((one) => !Number.isInteger(one) || one < least || one > most))
      throw unreadable(tzid, `${name} must be whole numbers from ${least} to ${most}`);
    return [...new Set(values)];
  };
  const days = (parts.get('BYDAY')?.split(',') ?? []).map((one) => {
    const weekday = WEEKDAYS.indexOf(one.slice(-2));
    const nth = one.length > 2 ? Number(one.slice(0, -2)) : null;
    if (weekday < 0 || nth === 0 || (nth !== null && !(Math.abs(nth) <= 5)))
      throw unreadable(tzid, 'BYDAY must be weekdays such as SU or -1SU');
    return { weekday, nth };
  });
  const months = whole('BYMONTH', 1, 12);
  // Without a month the first Sunday would be that of the year.
  if (days.length > 0 && months.length === 0)
    throw unreadable(tzid, `it changes by “${text.slice(0, 80)}”, which names no month`);
  const until = parts.get('UNTIL') ?? null;
  const [interval = 1] = whole('INTERVAL', 1, 1000);
  const [count = null] = whole('COUNT', 1, 10_000);
  return {
    interval,
    count,
    until: until === null ? null : untilOf(until, tzid),
    untilIsUtc: until?.endsWith('Z') ?? false,
    months,
    monthDays: whole('BYMONTHDAY', -31, 31),
    days: days.slice(0, 35),
  };
}

/** `2030-03-31T01:00:00Z` or `20300331T010000Z`, of a date its last moment. */
function untilOf(text: string, tzid: string): number {
  const digits = text.replaceAll(/[^\d]/g, '');
  const [date, time] = [digits.slice(0, 8), digits.slice(8, 14)];
  const local = localOf(
    `${date.slice(0, 4)}-${date.slice(4, 6)}-${date.slice(6, 8)}T` +
      (time ? `${time.slice(0, 2)}:${time.slice(2, 4)}:${time.slice(4, 6)}` : '23:59:59'),
  );
  if (local === null) throw unreadable(tzid, 'UNTIL is no time');
  return local;
}

/** When an observance begins, epoch milliseconds: within the window, and the last time before it. */
function onsetsIn(
  one: Observance,
  { start, end }: { start: number; end: number },
  tzid: string,
): number[] {
  const locals = [
    one.onset,
    ...one.named,
    ...(one.yearly ? yearlyOnsets(one, one.yearly, { start, end }, tzid) : []),
  ];
  let before = Number.NEGATIVE_INFINITY;
  const within = new Set<number>();
  for (const local of locals) {
    const at = local - one.from;
    if (at >= start && at < end) within.add(at);
    else if (at < start) before = Math.max(before, at);
  }
  return before === Number.NEGATIVE_INFINITY ? [...within] : [before, ...within];
}

const yearOf = (ms: number): number => new Date(ms).getUTCFullYear();

/** The times that a rule names in the years of a window, and in those before it that may hold the last one. */
function yearlyOnsets(
  one: Observance,
  yearly: YearlyChange,
  { start, end }: { start: number; end: number },
  tzid: string,
): number[] {
  const { interval, count, until } = yearly;
  const first = yearOf(one.onset);
  const last = Math.min(
    yearOf(end) + 1,
    until === null ? Infinity : yearOf(until) + 1,
    count === null ? Infinity : first + (count - 1) * interval,
  );
  const from = Math.max(first, Math.min(yearOf(start), last) - 2 * interval);
  const found: number[] = [];
  for (
    let year = first + Math.ceil((from - first) / interval) * interval;
    year <= last;
    year += interval
  ) {
    const ofYear = onsetsOfYear(one.onset, yearly, year);
    if (ofYear.length > MOST_A_YEAR)
      throw unreadable(tzid, `a rule changes it more than ${MOST_A_YEAR} times a year`);
    found.push(...ofYear);
  }
  return found.filter((local) => {
    if (local < one.onset) return false;
    return until === null || (yearly.untilIsUtc ? local - one.from : local) <= until;
  });
}

/** The times of a year at which a rule lets an observance begin, local milliseconds, in order. */
function onsetsOfYear(
  onset: number,
  { months, monthDays, days }: YearlyChange,
  year: number,
): number[] {
  const begins = new Date(onset);
  const timeOfDay = ((onset % DAY) + DAY) % DAY;
  const everyMonth = Array.from({ length: 12 }, (_, k) => k + 1);
  const isByDay = monthDays.length > 0 || days.length > 0;
  const among = months.length > 0 ? months : isByDay ? everyMonth : [begins.getUTCMonth() + 1];
  return among.flatMap((month) => {
    const length = new Date(Date.UTC(year, month, 0)).getUTCDate();
    const weekdayOfFirst = new Date(Date.UTC(year, month - 1, 1)).getUTCDay();
    const isMeant = (day: number) =>
      isByDay
        ? (monthDays.length === 0 ||
            monthDays.includes(day) ||
            monthDays.includes(day - length - 1)) &&
          (days.length === 0 ||
            days.some((one) => isNth(one, day, (weekdayOfFirst + day - 1) % 7, length)))
        : day === begins.getUTCDate();
    const found: number[] = [];
    for (let day = 1; day <= length; day++)
      if (isMeant(day)) found.push(Date.UTC(year, month - 1, day) + timeOfDay);
    return found;
  });
}

/** Whether a day is the nth of its weekday in its month, counted from the end where it is negative. */
function isNth(
  { weekday, nth }: { weekday: number; nth: number | null },
  day: number,
  weekdayOfDay: number,
  length: number,
): boolean {
  if (weekdayOfDay !== weekday) return false;
  if (nth === null) return true;
  return nth > 0 ? Math.ceil(day / 7) === nth : Math.ceil((length - day + 1) / 7) === -nth;
}
