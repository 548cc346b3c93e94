import { Temporal } from 'temporal-polyfill';

/**
 * The slow, obvious twin of recurrence: walks through the calendar one day after another and asks
 * of each whether the rule names it. It reads the rule's text by itself.
 */
export interface NaiveSeries {
  startsAt: string;
  zone: string;
  rule: string;
}

const DAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const DAY_MS = 86_400_000;

/** What a calendar says of a day, the day counted from 1 January 1970. */
interface Day {
  number: number;
  date: string;
  year: number;
  month: number;
  day: number;
  weekday: number;
  daysInMonth: number;
  dayOfYear: number;
  daysInYear: number;
}

const daysSeen = new Map<number, Day>();

function dayNumbered(number: number): Day {
  const seen = daysSeen.get(number);
  if (seen) return seen;
  const date = new Date(number * DAY_MS);
  const [year, month] = [date.getUTCFullYear(), date.getUTCMonth() + 1];
  const newYear = Date.UTC(year, 0, 1) / DAY_MS;
  const day = {
    number,
    date: date.toISOString().slice(0, 10),
    year,
    month,
    day: date.getUTCDate(),
    weekday: ((date.getUTCDay() + 6) % 7) + 1,
    daysInMonth: new Date(Date.UTC(year, month, 0)).getUTCDate(),
    dayOfYear: number - newYear + 1,
    daysInYear: Date.UTC(year + 1, 0, 1) / DAY_MS - newYear,
  };
  daysSeen.set(number, day);
  return day;
}

const numberOf = (date: string) => Date.parse(`${date}T00:00Z`) / DAY_MS;

/** Recurrence ids and instants up to and with the day `lastDate`. */
export function naiveOccurrences(
  { startsAt, zone, rule }: NaiveSeries,
  lastDate: string,
): { recurrenceId: string; start: number }[] {
  const parts = Object.fromEntries(rule.split(';').map((part) => part.split('=')));
  const first = dayNumbered(numberOf(startsAt.slice(0, 10)));
  const last = numberOf(lastDate);
  const found: { recurrenceId: string; start: number }[] = [];
  const count = parts.COUNT ? Number(parts.COUNT) : Infinity;
  let period: Day[] = [];
  let current = -1;

  const closePeriod = () => {
    const positions: number[] = parts.BYSETPOS?.split(',').map(Number) ?? [];
    const chosen = positions.length
      ? period.filter((_, k) => positions.includes(k + 1) || positions.includes(k - period.length))
      : period;
    for (const day of chosen) {
      if (day.number < first.number || day.number > last || found.length >= count) continue;
      const wall = Temporal.PlainDateTime.from(day.date + startsAt.slice(10));
      const time = wall.toZonedDateTime(zone, { disambiguation: 'earlier' });
      // A local time that the clock skips is not an occurrence and is not counted.
      if (!time.toPlainDateTime().equals(wall)) continue;
      const start = time.epochMilliseconds;
      if (parts.UNTIL && afterUntil(parts.UNTIL, start, day.date)) continue;
      found.push({ recurrenceId: day.date + startsAt.slice(10), start });
    }
    period = [];
  };

  // From before the start's year, so that the first period is whole, to the end of the last one.
  const from = first.number - first.dayOfYear - 6;
  for (let number = from; number <= last + 366; number++) {
    const day = dayNumbered(number);
    const at = periodOf(parts, day);
    if (at !== current) closePeriod();
    current = at;
    const steps = at - periodOf(parts, first);
    const inside = steps >= 0 && steps % Number(parts.INTERVAL ?? 1) === 0;
    if (inside && named(parts, first, day)) period.push(day);
    if (day.number > last && period.length === 0) break;
  }
  closePeriod();
  return found;
}

function afterUntil(until: string, instant: number, date: string): boolean {
  if (until.endsWith('Z')) return instant > Temporal.Instant.from(until).epochMilliseconds;
  return date.replaceAll('-', '') > until.slice(0, 8);
}

/** The days, weeks, months or years counted through. */
function periodOf(parts: Record<string, string>, day: Day): number {
  if (parts.FREQ === 'DAILY') return day.number;
  // 1 January 1970 was a Thursday.
  if (parts.FREQ === 'WEEKLY') {
    return Math.floor((day.number + 3 - DAYS.indexOf(parts.WKST ?? 'MO')) / 7);
  }
  return parts.FREQ === 'MONTHLY' ? day.year * 12 + day.month : day.year;
}

const listed = (list: string | undefined, ...values: number[]) =>
  list === undefined || list.split(',').some((one) => values.includes(Number(one)));

function named(parts: Record<string, string>, first: Day, day: Day): boolean {
  if (!listed(parts.BYMONTH, day.month)) return false;
  if (!listed(parts.BYMONTHDAY, day.day, day.day - day.daysInMonth - 1)) return false;
  if (parts.BYDAY && !parts.BYDAY.split(',').some((one) => isThatDay(parts, one, day)))
    return false;
  if (parts.BYDAY || parts.BYMONTHDAY) return true;
  if (parts.FREQ === 'WEEKLY') return day.weekday === first.weekday;
  if (parts.FREQ === 'MONTHLY') return day.day === first.day;
  if (parts.FREQ === 'YEARLY')
    return day.day === first.day && (parts.BYMONTH !== undefined || day.month === first.month);
  return true;
}

function isThatDay(parts: Record<string, string>, text: string, day: Day): boolean {
  if (day.weekday !== DAYS.indexOf(text.slice(-2)) + 1) return false;
  const nth = text.slice(0, -2);
  if (!nth) return true;
  const inMonth = parts.FREQ === 'MONTHLY' || parts.BYMONTH !== undefined;
  const [at, length] = inMonth ? [day.day, day.daysInMonth] : [day.dayOfYear, day.daysInYear];
  const fromEnd = -Math.ceil((length - at + 1) / 7);
  return Number(nth) === Math.ceil(at / 7) || Number(nth) === fromEnd;
}
