import { GB } from 'chrono-node/en';
import { daysAheadNamed, monthNamed, weekdayNamed } from './dayWords.ts';
import type { DayOrder } from './dayOrder.ts';
import { addDays, isDate, startOfWeek, weekdayOf } from './wall.ts';

const two = (text: string | number): string => String(text).padStart(2, '0');

/** A day as it was read, `YYYY-MM-DD`. */
export interface DayRead {
  date: string;
  /** What it could mean as well: the other order of `12/10`, the day of the week that does not agree. */
  other: string | null;
}

/**
 * Reads a day as people type it: `2027-02-10`, `10.2.`, `10/2/2027`, `Wed 3 March`, `next Friday`,
 * `in 2 weeks`, `tomorrow`, `torsdag`. A day without its year is the next one to come.
 * @param today `YYYY-MM-DD`, from which what is left out is counted
 * @param order which of two bare numbers is the day
 * @returns null where the whole text is no day, and where there is no such day: `31 Feb`
 */
export function readDayAs(
  text: string,
  today: string,
  order: DayOrder = 'day-first',
): DayRead | null {
  const typed = text.trim().replace(/\s+/g, ' ');
  return written(typed, today, order) ?? said(typed, today);
}

/** As `readDayAs`, without what else it could mean. */
export const readDay = (text: string, today: string, order?: DayOrder): string | null =>
  readDayAs(text, today, order)?.date ?? null;

/** A day and its month, with or without a year, as yet unchecked. */
interface Written {
  day: number;
  month: number;
  year: number | null;
  weekday: number | null;
}

const NUMBERS = /^(\d{1,2})(?:\.\s*(\d{1,2})\.?|\/(\d{1,2}))(?:\s*(?<=[./ ])(\d{4})|\/(\d{2,4}))?$/;

/** Whether a text has the shape of a date in numbers or with a month, be there such a day or not. */
export const isWrittenDay = (text: string): boolean => {
  const typed = text.trim();
  return /^\d{4}-\d{1,2}-\d{1,2}$/.test(typed) || NUMBERS.test(typed) || withMonth(typed) !== null;
};

function written(typed: string, today: string, order: DayOrder): DayRead | null {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(typed);
  if (iso) return only(dateOf(Number(iso[1]), Number(iso[2]), Number(iso[3])));
  const numbers = NUMBERS.exec(typed);
  if (numbers) {
    const [, first, dotted, slashed, year, short] = numbers;
    const inYear = yearOf(year ?? short);
    const on = (day: string, month: string) =>
      dateIn({ day: Number(day), month: Number(month), year: inYear, weekday: null }, today);
    if (dotted) return only(on(first!, dotted));
    const [dayFirst, monthFirst] = [on(first!, slashed!), on(slashed!, first!)];
    const [date, other] = order === 'day-first' ? [dayFirst, monthFirst] : [monthFirst, dayFirst];
    if (!date || !other) return only(date ?? other);
    return { date, other: other === date ? null : other };
  }
  const found = withMonth(typed);
  if (!found) return null;
  const date = dateIn(found, today);
  if (!date) return null;
  const { weekday } = found;
  if (weekday === null || weekdayOf(date) === weekday) return only(date);
  // Either of the two was a slip: the day of the week that was named is the other reading.
  return { date, other: addDays(startOfWeek(date), weekday - 1) };
}

const only = (date: string | null): DayRead | null =>
  date === null ? null : { date, other: null };

/** `Wed 3 March 2027`, `3rd of March`, `March 3`, `Mar 3rd, 2027`. */
function withMonth(typed: string): Written | null {
  const words = typed
    .toLowerCase()
    .replace(/,/g, ' ')
    .split(' ')
    .filter((word) => word && word !== 'of' && word !== 'the');
  const weekday = weekdayNamed(words[0] ?? '');
  if (weekday !== null) words.shift();
  if (words.length < 2 || words.length > 3) return null;
  const [first, second, third] = words as [string, string, string?];
  const year = third === undefined ? null : yearOf(/^(\d{4}|'\d{2})$/.exec(third)?.[0]);
  if (third !== undefined && year === null) return null;
  const dayOf = (word: string) => Number(/^(\d{1,2})(?:st|nd|rd|th|\.)?$/.exec(word)?.[1] ?? NaN);
  const [day, month] =
    monthNamed(second) === null
      ? [dayOf(second), monthNamed(first)]
      : [dayOf(first), monthNamed(second)];
  return month === null || Number.isNaN(day) ? null : { day, month, year, weekday };
}

/** `2027`, `27` and `'27`. */
function yearOf(text: string | undefined): number | null {
  if (text === undefined) return null;
  const year = Number(text.replace("'", ''));
  return year < 100 ? 2000 + year : year;
}

function dateOf(year: number, month: number, day: number): string | null {
  const date = `${String(year).padStart(4, '0')}-${two(month)}-${two(day)}`;
  return isDate(date) ? date : null;
}

/** In its year; without one the next that is not over, a leap day in the next year that has it. */
function dateIn({ day, month, year }: Written, today: string): string | null {
  if (year !== null) return dateOf(year, month, day);
  const from = Number(today.slice(0, 4));
  for (let ahead = 0; ahead <= 8; ahead++) {
    const date = dateOf(from + ahead, month, day);
    if (date && date >= today) return date;
  }
  return null;
}

/** `tomorrow`, `torsdag`, `next Friday`, `in 2 weeks`. */
function said(typed: string, today: string): DayRead | null {
  const ahead = daysAheadNamed(typed);
  if (ahead !== null) return only(addDays(today, ahead));
  const weekday = weekdayNamed(typed);
  if (weekday !== null) return only(addDays(today, (weekday - weekdayOf(today) + 7) % 7));
  const next = /^next (\S+)$/i.exec(typed);
  const nextDay = next && weekdayNamed(next[1]!);
  if (nextDay) {
    const date = addDays(startOfWeek(today), 6 + nextDay);
    // Some mean the one to come, as long as it is still this week's.
    return { date, other: nextDay > weekdayOf(today) ? addDays(date, -7) : null };
  }
  // A year, a month or a time alone is no day, and neither is a date that there is not.
  if (/\d{4}|\d[./:-]\d/.test(typed) || typed.split(' ').some((word) => monthNamed(word) !== null))
    return null;
  const reference = { instant: new Date(`${today}T12:00:00Z`), timezone: 0 };
  // "last Friday" and "2 days ago" lie in the past; all else is still to come.
  const isPast = /^last\b|\bago$/i.test(typed);
  const [found] = GB.parse(typed, reference, { forwardDate: !isPast });
  if (!found || found.text.length < typed.length) return null;
  const { start, end } = found;
  if (end || start.isCertain('hour')) return null;
  return only(dateOf(start.get('year')!, start.get('month')!, start.get('day')!));
}
