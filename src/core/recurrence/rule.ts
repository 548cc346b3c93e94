import { isDate } from '../time/wall.ts';

export const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const;
export type Weekday = (typeof WEEKDAYS)[number];

export const FREQUENCIES = ['DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'] as const;
export type Frequency = (typeof FREQUENCIES)[number];

export interface RuleDay {
  weekday: Weekday;
  /** 1 for the first of the month or year, -1 for the last; null for every one. */
  nth: number | null;
}

/** A recurrence rule (RFC 5545 section 3.3.10) of the parts that name days; times of day come from the start. */
export interface Rule {
  frequency: Frequency;
  interval: number;
  count: number | null;
  /** `YYYY-MM-DD`: the last day, itself included; or `YYYY-MM-DDTHH:mmZ`: the last instant. */
  until: string | null;
  byDay: RuleDay[];
  /** 1 to 31, or -1 for the last day of the month. */
  byMonthDay: number[];
  byMonth: number[];
  byYearDay: number[];
  byWeekNo: number[];
  bySetPos: number[];
  weekStart: Weekday;
}

/** A rule that cannot be used; the message says what is allowed and stands after a field's name. */
export class RuleError extends Error {
  override name = 'RuleError';
}

export const MOST_COUNT = 5000;
const LONGEST_MONTH = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
const MONTH_NAMES = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

const PARTS = [
  'FREQ',
  'INTERVAL',
  'COUNT',
  'UNTIL',
  'BYDAY',
  'BYMONTHDAY',
  'BYMONTH',
  'BYYEARDAY',
  'BYWEEKNO',
  'BYSETPOS',
  'WKST',
];

/** A plain rule of a frequency, every time it comes round. */
export const plainRule = (frequency: Frequency): Rule => ({
  frequency,
  interval: 1,
  count: null,
  until: null,
  byDay: [],
  byMonthDay: [],
  byMonth: [],
  byYearDay: [],
  byWeekNo: [],
  bySetPos: [],
  weekStart: 'MO',
});

/**
 * Reads an RRULE value, such as `FREQ=WEEKLY;BYDAY=TU`.
 * @throws RuleError saying what is wrong with it
 */
export function parseRule(text: string): Rule {
  const parts = new Map<string, string>();
  for (const part of text
    .trim()
    .replace(/^RRULE:/i, '')
    .split(';')) {
    const [name = '', value, ...rest] = part.split('=');
    const key = name.toUpperCase();
    if (value === undefined || value === '' || rest.length > 0) {
      throw new RuleError(
        `must be a list of NAME=VALUE such as FREQ=WEEKLY;BYDAY=TU, not “${part}”`,
      );
    }
    if (!PARTS.includes(key)) {
      throw new RuleError(`may use only ${PARTS.join(', ')}, not ${key}`);
    }
    if (parts.has(key)) throw new RuleError(`must not give ${key} twice`);
    parts.set(key, value.toUpperCase());
  }
  const frequency = parts.get('FREQ');
  if (!FREQUENCIES.includes(frequency as Frequency)) {
    throw new RuleError(`must have FREQ as one of ${FREQUENCIES.join(', ')}`);
  }
  const list = (name: string, least: number, most: number) =>
    readNumbers(name, parts.get(name), least, most);
  const count = parts.get('COUNT');
  const until = parts.get('UNTIL');
  const rule: Rule = {
    frequency: frequency as Frequency,
    interval: readNumber('INTERVAL', parts.get('INTERVAL') ?? '1', 1, 999),
    count: count === undefined ? null : readNumber('COUNT', count, 1, MOST_COUNT),
    until: until === undefined ? null : readUntil(until),
    byDay: (parts.get('BYDAY')?.split(',') ?? []).map(readDay),
    byMonthDay: list('BYMONTHDAY', -31, 31),
    byMonth: list('BYMONTH', 1, 12),
    byYearDay: list('BYYEARDAY', -366, 366),
    byWeekNo: list('BYWEEKNO', -53, 53),
    bySetPos: list('BYSETPOS', -366, 366),
    weekStart: readWeekday('WKST', parts.get('WKST') ?? 'MO'),
  };
  checkRule(rule);
  return rule;
}

/**
 * Refuses combinations that RFC 5545 forbids, and days that no month has.
 * @throws RuleError
 */
export function checkRule(rule: Rule): void {
  if (rule.count !== null && rule.until !== null) {
    throw new RuleError('must have COUNT or UNTIL, not both: a series ends in one way');
  }
  const numbered = rule.byDay.some((day) => day.nth !== null);
  const monthly = rule.frequency === 'MONTHLY' || rule.frequency === 'YEARLY';
  if (!monthly && numbered) {
    throw new RuleError('may number its weekdays (such as 2TU) only monthly or yearly');
  }
  if (numbered && rule.byWeekNo.length + rule.byMonthDay.length > 0) {
    throw new RuleError('must not number its weekdays beside BYWEEKNO or BYMONTHDAY');
  }
  if (rule.frequency === 'WEEKLY' && rule.byMonthDay.length > 0) {
    throw new RuleError('must not have BYMONTHDAY weekly; make it monthly');
  }
  if (rule.frequency !== 'YEARLY' && rule.byWeekNo.length > 0) {
    throw new RuleError('may have BYWEEKNO only yearly');
  }
  if (rule.frequency !== 'YEARLY' && rule.byYearDay.length > 0) {
    throw new RuleError('may have BYYEARDAY only yearly');
  }
  const chooses = [rule.byDay, rule.byMonthDay, rule.byMonth, rule.byYearDay, rule.byWeekNo];
  if (rule.bySetPos.length > 0 && chooses.every((part) => part.length === 0)) {
    throw new RuleError('needs another BY part for BYSETPOS to choose from');
  }
  const { byMonth, byMonthDay } = rule;
  if (byMonth.length > 0 && byMonthDay.length > 0) {
    const possible = byMonth.some((month) =>
      byMonthDay.some((day) => Math.abs(day) <= LONGEST_MONTH[month - 1]!),
    );
    if (!possible) {
      const months = byMonth.map((month) => MONTH_NAMES[month - 1]).join(' or ');
      throw new RuleError(
        `must name days that exist: there is no ${byMonthDay.join(' or ')} ${months}`,
      );
    }
  }
}

function readNumber(name: string, text: string, least: number, most: number): number {
  const number = /^[+-]?\d{1,5}$/.test(text) ? Number(text) : Number.NaN;
  if (!(number >= least && number <= most)) {
    throw new RuleError(
      `must have ${name} as a whole number from ${least} to ${most}, not ${text}`,
    );
  }
  return number;
}

function readNumbers(
  name: string,
  text: string | undefined,
  least: number,
  most: number,
): number[] {
  return (text?.split(',') ?? []).map((one) => {
    const number = readNumber(name, one, least, most);
    if (number === 0) throw new RuleError(`must not have 0 in ${name}`);
    return number;
  });
}

function readWeekday(name: string, text: string): Weekday {
  if (!WEEKDAYS.includes(text as Weekday)) {
    throw new RuleError(`must have ${name} as ${WEEKDAYS.join(', ')}, not ${text}`);
  }
  return text as Weekday;
}

function readDay(text: string): RuleDay {
  const match = /^([+-]?\d{1,2})?([A-Z]{2})$/.exec(text);
  if (!match) throw new RuleError(`must have BYDAY such as MO, 2TU or -1FR, not ${text}`);
  const weekday = readWeekday('BYDAY', match[2]!);
  if (match[1] === undefined) return { weekday, nth: null };
  const nth = readNumber('BYDAY', match[1], -53, 53);
  if (nth === 0) throw new RuleError('must not have 0 in BYDAY');
  return { weekday, nth };
}

function readUntil(text: string): string {
  const match = /^(\d{4})(\d{2})(\d{2})(?:T(\d{2})(\d{2})\d{2}(Z)?)?$/.exec(text);
  const date = match && `${match[1]}-${match[2]}-${match[3]}`;
  if (!match || !date || !isDate(date)) {
    throw new RuleError(
      `must have UNTIL as a day that exists such as 20261224, or an instant such as 20261224T130000Z, not ${text}`,
    );
  }
  // A local time of day says no more than its day: a day holds at most one occurrence.
  return match[6] ? `${date}T${match[4]}:${match[5]}Z` : date;
}

const dayText = ({ weekday, nth }: RuleDay): string => `${nth ?? ''}${weekday}`;

/** The rule as an RRULE value; `parseRule` reads it back. */
export function ruleText(rule: Rule): string {
  const list = (name: string, values: readonly (string | number)[]) =>
    values.length > 0 ? [`${name}=${values.join(',')}`] : [];
  return [
    `FREQ=${rule.frequency}`,
    ...(rule.interval > 1 ? [`INTERVAL=${rule.interval}`] : []),
    ...(rule.count === null ? [] : [`COUNT=${rule.count}`]),
    ...(rule.until === null ? [] : [`UNTIL=${untilText(rule.until)}`]),
    ...list('BYMONTH', rule.byMonth),
    ...list('BYWEEKNO', rule.byWeekNo),
    ...list('BYYEARDAY', rule.byYearDay),
    ...list('BYMONTHDAY', rule.byMonthDay),
    ...list('BYDAY', rule.byDay.map(dayText)),
    ...list('BYSETPOS', rule.bySetPos),
    ...(rule.weekStart === 'MO' ? [] : [`WKST=${rule.weekStart}`]),
  ].join(';');
}

const untilText = (until: string): string =>
  until.length === 10
    ? until.replaceAll('-', '')
    : `${until.slice(0, -1).replaceAll(/[-:]/g, '')}00Z`;

/** `MO` for 1 to `SU` for 7 (ISO 8601). */
export const weekdayName = (weekday: number): Weekday => WEEKDAYS[weekday - 1]!;

/** Whether two rules name the same dates, but for how long they go on. */
export function differOnlyInEnd(a: Rule, b: Rule): boolean {
  const endless = (rule: Rule) => ruleText({ ...rule, count: null, until: null });
  return endless(a) === endless(b);
}
