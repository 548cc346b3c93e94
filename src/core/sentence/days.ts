import { numberOf } from '../time/numberWords.ts';
import { daysAheadNamed, monthNamed, weekdayNamed } from '../time/dayWords.ts';
import { isWrittenDay, readDayAs } from '../time/typedDay.ts';
import { addDays, isDate, startOfWeek, weekdayOf } from '../time/wall.ts';
import { eachRun, isEnd, type Reading } from './words.ts';

const two = (number: number): string => String(number).padStart(2, '0');
/** Days of a week on which people work, from a date of it on. */
const restOfWeek = (date: string): number => Math.max(1, 6 - weekdayOf(date));
const firstOf = (month: string): string => `${month}-01`;
const lastOf = (date: string): string => {
  const next = addDays(`${date.slice(0, 7)}-28`, 4);
  return addDays(firstOf(next.slice(0, 7)), -1);
};

/** Days of work from a date up to another, both belonging to it. */
function workingDays(from: string, to: string): number {
  let days = 0;
  for (let date = from; date <= to; date = addDays(date, 1)) if (weekdayOf(date) <= 5) days++;
  return Math.max(1, days);
}

/** Dates in numbers or with a month; what looks like one and is none is said. */
export function readWrittenDays({ words, take, reader }: Reading): void {
  const { today, order } = reader;
  readSpans({ words, take, reader });
  const hasTime = words.some(({ text }) =>
    /^\d{1,2}:\d{2}|^\d{1,2}([:.]\d{2})?[ap]m$|^\d{1,2}h\d{0,2}$/i.test(text),
  );
  const written = (text: string) => {
    if (!isWrittenDay(text)) return null;
    // "9.30" is a time, unless another one is there; "1.12" is none.
    if (/^\d{1,2}\.\d[05]$/.test(text) && !hasTime) return null;
    const read = readDayAs(text, today, order);
    // A number with a dot or a stroke that is no day may be anything else.
    return !read && /^\d{1,2}[./]\d{1,2}$/.test(text) ? null : { read };
  };
  eachRun(words, 4, written, (at, count, { read }, text) => {
    if (read) take(at, count, { kind: 'day', words: text, ...read });
    else take(at, count, { kind: 'unread', words: text, why: 'there is no such day' });
  });
}

/** "3-5 December", "December 3 to 5". */
function readSpans({ words, take, reader: { today, order } }: Reading): void {
  const span = (text: string) => {
    const after = /^(\d{1,2}) (?:-|to|until) (\d{1,2}) (?:of )?([a-z]+)$/i.exec(text);
    const before = /^([a-z]+) (\d{1,2}) (?:-|to|until) (\d{1,2})$/i.exec(text);
    const [first, last, month] = after
      ? [after[1]!, after[2]!, after[3]!]
      : before
        ? [before[2]!, before[3]!, before[1]!]
        : [];
    if (!first || !last || !month || monthNamed(month) === null) return null;
    const from = readDayAs(`${first} ${month}`, today, order)?.date;
    const to = from && `${from.slice(0, 8)}${two(Number(last))}`;
    return from && to && isDate(to) && from < to ? { from, days: workingDays(from, to) } : null;
  };
  eachRun(words, 5, span, (at, count, found, text) => {
    // "18 Dec 12-14" is a day and a time: only the month first can be meant either way.
    if (/^[a-z]/i.test(text) && /\b(1[0-9]|2[0-3]|[7-9])\b/.test(words[at + 1]!.text)) return;
    take(at, count, { kind: 'days', words: text, ...found });
  });
}

/** "the 3rd", "on the 30th": the next one that there is. */
function nextOfMonth(day: number, today: string): string | null {
  let month = today.slice(0, 7);
  for (let ahead = 0; ahead < 12; ahead++) {
    const date = `${month}-${two(day)}`;
    if (isDate(date) && date >= today) return date;
    month = addDays(lastOf(firstOf(month)), 1).slice(0, 7);
  }
  return null;
}

/** The Monday of a week by its number (ISO 8601), the next one that is not over; null where there is none. */
function mondayOfWeek(number: number, today: string): string | null {
  for (const year of [0, 1].map((ahead) => Number(today.slice(0, 4)) + ahead)) {
    const monday = addDays(startOfWeek(`${year}-01-04`), 7 * (number - 1));
    // The 53rd is the first of the next year where there are 52.
    if (addDays(monday, 3).slice(0, 4) !== String(year)) continue;
    if (addDays(monday, 6) >= today) return monday;
  }
  return null;
}

/** Several days, from one on; null where a text says none. */
function daysIn(text: string, today: string): { from: string; days: number } | null {
  const monday = startOfWeek(today);
  const from = (date: string) => (date < today ? today : date);
  const number = /^(?:in )?(?:week|wk|uke|kw) (\d{1,2})$/i.exec(text);
  if (number) {
    const first = mondayOfWeek(Number(number[1]), today);
    return first === null ? null : { from: from(first), days: restOfWeek(from(first)) };
  }
  const week = /^(?:(early|mid|late|later|the end of|end of) )?(this|the|next) week$/i.exec(text);
  if (week) {
    const [, part, which] = week;
    if (!part && /the/i.test(which!)) return null;
    const first = addDays(monday, /next/i.test(which!) ? 7 : 0);
    const [begin, days] = !part
      ? [0, 5]
      : /early/i.test(part)
        ? [0, 2]
        : /mid/i.test(part)
          ? [1, 3]
          : [3, 2];
    const start = from(addDays(first, begin));
    return { from: start, days: part && start > today ? days : Math.min(days, restOfWeek(start)) };
  }
  if (/^((the )?end of (the |this )?month|month end)$/i.test(text)) {
    const last = lastOf(today);
    const start = from(addDays(last, -4));
    return { from: start, days: workingDays(start, last) };
  }
  if (/^next month$/i.test(text)) {
    const first = addDays(lastOf(today), 1);
    return { from: first, days: workingDays(first, lastOf(first)) };
  }
  const month = /^in ([a-z]+)$/i.exec(text);
  const named = month && month[1]!.length > 2 ? monthNamed(month[1]!) : null;
  if (named) {
    const year = Number(today.slice(0, 4)) + (named < Number(today.slice(5, 7)) ? 1 : 0);
    const first = `${year}-${two(named)}-01`;
    return { from: from(first), days: workingDays(from(first), lastOf(first)) };
  }
  const ends = /^(?:from )?(\S+) (?:-|to|through|until|till|til) (\S+)$/i.exec(text);
  const [first, last] = [weekdayNamed(ends?.[1] ?? ''), weekdayNamed(ends?.[2] ?? '')];
  if (first && last) {
    const begin = addDays(today, (first - weekdayOf(today) + 7) % 7);
    return { from: begin, days: ((last - first + 7) % 7) + 1 };
  }
  return null;
}

const DAY_NAME = '(mon|tue|tues|wed|wednes|thu|thur|thurs|fri|sat|satur|sun)(?:day)?';
const OF_WEEK = new RegExp(`^${DAY_NAME} (?:of )?(this|next) week$`, 'i');
const WEEKS_DAY = new RegExp(`^(this|next) week (?:on )?${DAY_NAME}$`, 'i');

/** One day; null where a text says none. */
function dayIn(text: string, today: string): { date: string; other: string | null } | null {
  const match = OF_WEEK.exec(text) ?? WEEKS_DAY.exec(text);
  if (match) {
    const isFirst = /^(this|next)$/i.test(match[1]!);
    const [name, which] = isFirst ? [match[2]!, match[1]!] : [match[1]!, match[2]!];
    const monday = addDays(startOfWeek(today), /next/i.test(which) ? 7 : 0);
    return { date: addDays(monday, weekdayNamed(name.slice(0, 3))! - 1), other: null };
  }
  const after = /^(?:a|one) week on (\S+)$|^(\S+) week$/i.exec(text);
  const weekday = weekdayNamed(after?.[1] ?? after?.[2] ?? '');
  if (weekday) {
    const date = addDays(today, ((weekday - weekdayOf(today) + 7) % 7) + 7);
    return { date, other: null };
  }
  const ahead = /^in (\w+) (day|week)s?$/i.exec(text);
  if (ahead) {
    const count = /^an?$/i.test(ahead[1]!) ? 1 : numberOf(ahead[1]!);
    const date = addDays(today, count * (/^w/i.test(ahead[2]!) ? 7 : 1));
    return count > 0 ? { date, other: null } : null;
  }
  // A month alone is no day, and may be a name; other words are not shown to the reader of dates.
  return isDayLike(text) ? readDayAs(text, today) : null;
}

const isDayLike = (text: string): boolean =>
  daysAheadNamed(text) !== null ||
  /\b(ago|after tomorrow)$/i.test(text) ||
  weekdayNamed(text.replace(/^(next|last|this) /i, '')) !== null;

/** "Thursday", "next Monday", "the 3rd", "in two weeks", "week 49", "Mon-Wed", "end of the month". */
export function readDays({ words, take, reader: { today } }: Reading): void {
  eachRun(
    words,
    5,
    (text) => daysIn(text, today),
    (at, count, found, text) => {
      // In "next week Thursday" the day is what is meant.
      const further = words.slice(at, at + count + 1).map((word) => word.text);
      const next = words[at + count];
      if (next && !next.taken && dayIn(further.join(' '), today)) return;
      if (dayBefore(words, at, count, today)) return;
      take(at, count, { kind: 'days', words: text, ...found });
    },
  );
  eachRun(
    words,
    4,
    (text) => dayIn(text, today),
    (at, count, found, text) => take(at, count, { kind: 'day', words: text, ...found }),
  );
  words.forEach((word, at) => {
    const day = /^(\d{1,2})(?:st|nd|rd|th)$/i.exec(word.text);
    if (!day || word.taken) return;
    const [before, earlier, next] = [words[at - 1], words[at - 2], words[at + 1]];
    const hasArticle = before !== undefined && !before.taken && /^the$/i.test(before.text);
    const lead = hasArticle ? earlier : before;
    const isOn = lead !== undefined && !lead.taken && /^on$/i.test(lead.text);
    // "the 3rd draft" is no day.
    if (!isOn && !(hasArticle && (isEnd(next) || /^\d/.test(next!.text)))) return;
    const date = nextOfMonth(Number(day[1]), today);
    const count = 1 + (hasArticle ? 1 : 0) + (isOn ? 1 : 0);
    if (date) take(at + 1 - count, count, { kind: 'day', words: word.text, date, other: null });
  });
}

const dayBefore = (words: Reading['words'], at: number, count: number, today: string): boolean => {
  const before = words[at - 1];
  if (!before || before.taken) return false;
  const text = words.slice(at - 1, at + count).map((word) => word.text);
  return dayIn(text.join(' '), today) !== null;
};

/** Parts of a day, in minutes after midnight. */
const PARTS: Record<string, [from: number, to: number]> = {
  morning: [8 * 60, 12 * 60],
  afternoon: [12 * 60, 17 * 60],
  evening: [17 * 60, 21 * 60],
  night: [17 * 60, 23 * 60],
  tonight: [17 * 60, 23 * 60],
};
/** Those that mean a part of the day wherever they stand. */
const ALWAYS: [words: RegExp, from: number, to: number][] = [
  [/^(by )?(eod|cob|(the )?end of (the )?day|close of business)$/i, 15 * 60, 18 * 60],
  [/^after lunch$/i, 13 * 60, 17 * 60],
  [/^before lunch$/i, 8 * 60, 12 * 60],
  [/^(at )?lunch ?time$/i, 11 * 60 + 30, 13 * 60 + 30],
  [/^first thing$/i, 8 * 60, 10 * 60],
  [/^early (in the )?morning$/i, 7 * 60, 9 * 60],
  [/^late (in the )?morning$/i, 10 * 60, 12 * 60],
  [/^early (in the )?afternoon$/i, 12 * 60, 15 * 60],
  [/^late (in the )?afternoon$/i, 15 * 60, 18 * 60],
];

/** "tomorrow afternoon", "Monday morning", "this evening", "tonight", "after lunch". */
export function readParts({ words, take, reader: { today } }: Reading): void {
  for (const [said, from, to] of ALWAYS)
    eachRun(
      words,
      4,
      (text) => (said.test(text) ? text : null),
      (at, count, _found, text) => take(at, count, { kind: 'between', words: text, from, to }),
    );
  words.forEach((word, at) => {
    const text = word.text.toLowerCase();
    const part = PARTS[text];
    if (word.taken || !part) return;
    const before = words[at - 1];
    const isTonight = text === 'tonight';
    const isThis = before !== undefined && !before.taken && /^this$/i.test(before.text);
    const isSaid =
      isTonight || isThis || (before && (before.taken || /^(the|in)$/i.test(before.text)));
    if (!isSaid) return;
    take(at, 1, { kind: 'between', words: word.text, from: part[0], to: part[1] });
    const day = { kind: 'day', date: today, other: null } as const;
    if (isTonight) take(at, 1, { ...day, words: word.text });
    else if (isThis) take(at - 1, 1, { ...day, words: before.text });
  });
}
