import { formatDay } from '../time/format.ts';
import { weekdayOf, type WallTime } from '../time/wall.ts';
import { WEEKDAYS, weekdayName, type Rule, type Weekday } from './rule.ts';

const DAY_NAMES: Record<Weekday, string> = {
  MO: 'Monday',
  TU: 'Tuesday',
  WE: 'Wednesday',
  TH: 'Thursday',
  FR: 'Friday',
  SA: 'Saturday',
  SU: 'Sunday',
};
const MONTHS =
  'January February March April May June July August September October November December'.split(
    ' ',
  );
const NTH: Record<number, string> = {
  1: 'first',
  2: 'second',
  3: 'third',
  4: 'fourth',
  5: 'fifth',
  [-1]: 'last',
  [-2]: 'second-to-last',
  [-3]: 'third-to-last',
};

/** `first`, `last`, `20th`. */
export const nthWord = (nth: number): string =>
  NTH[nth] ?? (nth < 0 ? `${ordinal(-nth)}-to-last` : ordinal(nth));

/** `1st`, `22nd`, `13th`. */
export function ordinal(number: number): string {
  const teens = number % 100 >= 11 && number % 100 <= 13;
  return `${number}${teens ? 'th' : (['th', 'st', 'nd', 'rd'][number % 10] ?? 'th')}`;
}

/** `a`, `a and b`, `a, b and c`. */
const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

const isWorkingWeek = (days: readonly Weekday[]): boolean =>
  days.length === 5 && WEEKDAYS.slice(0, 5).every((day) => days.includes(day));

/**
 * A rule as a sentence: `Every 2 weeks on Tuesday and Thursday, 10 times`.
 * @param startsAt wall time of the first occurrence, from which a rule takes what it does not name
 */
export function ruleSentence(rule: Rule, startsAt: WallTime): string {
  return `${rhythm(rule, startsAt)}${ending(rule)}`;
}

function rhythm(rule: Rule, startsAt: WallTime): string {
  const months = rule.byMonth.map((month) => MONTHS[month - 1]!);
  switch (rule.frequency) {
    case 'DAILY':
      return `${daily(rule)}${months.length ? ` in ${listed(months)}` : ''}`;
    case 'WEEKLY':
      return `${weekly(rule, startsAt)}${months.length ? ` in ${listed(months)}` : ''}`;
    case 'MONTHLY':
      return `${capital(daysOfMonth(rule, startsAt))} of ${months.length ? listed(months) : everyNth(rule.interval, 'month')}`;
    case 'YEARLY':
      return yearly(rule, startsAt, months);
  }
}

function daily(rule: Rule): string {
  const days = rule.byDay.map((day) => day.weekday);
  if (rule.interval > 1)
    return `Every ${rule.interval} days${days.length ? `, on ${weekdays(days)} only` : ''}`;
  if (days.length === 0) return 'Every day';
  return isWorkingWeek(days) ? 'Every day from Monday to Friday' : `Every ${weekdays(days)}`;
}

const weekdays = (days: readonly Weekday[]): string =>
  listed(WEEKDAYS.filter((day) => days.includes(day)).map((day) => DAY_NAMES[day]));

function weekly(rule: Rule, startsAt: WallTime): string {
  const named = rule.byDay.map((day) => day.weekday);
  const days = named.length ? named : [weekdayName(weekdayOf(startsAt.slice(0, 10)))];
  if (rule.interval > 1) return `Every ${rule.interval} weeks on ${weekdays(days)}`;
  return isWorkingWeek(days) ? 'Every day from Monday to Friday' : `Every ${weekdays(days)}`;
}

/** `on the second Tuesday`, `on the 2nd and 15th`, `on the last day from Monday to Friday`. */
function daysOfMonth(rule: Rule, startsAt: WallTime): string {
  const { byDay, byMonthDay, bySetPos } = rule;
  if (bySetPos.length > 0 && byDay.length > 0) {
    const days = byDay.map((day) => day.weekday);
    const which = isWorkingWeek(days) ? 'day from Monday to Friday' : `of ${weekdays(days)}`;
    return `on the ${listed(bySetPos.map(nthWord))} ${which}`;
  }
  const numbers = byMonthDay.map((day) =>
    day > 0 ? ordinal(day) : day === -1 ? 'last day' : `${nthWord(day)} day`,
  );
  if (byDay.length > 0) {
    const names = byDay.map(({ nth, weekday }) =>
      nth === null ? `every ${DAY_NAMES[weekday]}` : `the ${nthWord(nth)} ${DAY_NAMES[weekday]}`,
    );
    const among = numbers.length
      ? ` that is the ${numbers.join(', ').replace(/, ([^,]*)$/, ' or $1')}`
      : '';
    return `on ${listed(names)}${among}`;
  }
  return `on the ${listed(numbers.length ? numbers : [ordinal(Number(startsAt.slice(8, 10)))])}`;
}

function yearly(rule: Rule, startsAt: WallTime, months: string[]): string {
  const every = capital(everyNth(rule.interval, 'year'));
  const month = months.length ? listed(months) : MONTHS[Number(startsAt.slice(5, 7)) - 1]!;
  if (rule.byYearDay.length > 0) {
    return `${every} on the ${listed(rule.byYearDay.map(nthWord))} day of the year`;
  }
  if (rule.byWeekNo.length > 0) {
    const days = rule.byDay.map((day) => day.weekday);
    const named = days.length ? days : [weekdayName(weekdayOf(startsAt.slice(0, 10)))];
    return `${every} on ${weekdays(named)} of week ${listed(rule.byWeekNo.map(String))}`;
  }
  if (rule.byDay.length > 0) {
    const scope = months.length || rule.byMonthDay.length ? month : 'the year';
    return `${every} ${daysOfMonth(rule, startsAt)} of ${scope}`;
  }
  if (rule.byMonthDay.length <= 1 && months.length <= 1) {
    const day = rule.byMonthDay[0] ?? Number(startsAt.slice(8, 10));
    if (day > 0) return `${every} on ${day} ${month}`;
  }
  return `${every} ${daysOfMonth(rule, startsAt)} of ${month}`;
}

const everyNth = (interval: number, unit: string): string =>
  interval === 1 ? `every ${unit}` : `every ${interval} ${unit}s`;

function ending(rule: Rule): string {
  if (rule.count !== null) return rule.count === 1 ? ', once' : `, ${rule.count} times`;
  if (rule.until === null) return '';
  const date = rule.until.slice(0, 10);
  return `, through ${formatDay(Date.parse(`${date}T12:00Z`), 'UTC')} ${date.slice(0, 4)}`;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
