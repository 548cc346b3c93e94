import { readDay } from '../time/typedDay.ts';
import { parseLength, parseTimeOfDay } from '../time/typedTime.ts';
import { addDays, startOfWeek, weekdayOf } from '../time/wall.ts';
import { eachRun, type Chip, type Take, type Word } from './words.ts';

/* When, how long and how often, as sentences say it. */

const WEEKS: Record<string, number> = {
  second: 2,
  other: 2,
  '2': 2,
  two: 2,
  '3': 3,
  three: 3,
  third: 3,
  '4': 4,
  four: 4,
  fourth: 4,
};
const NUMBERS = 'zero one two three four five six seven eight nine ten eleven twelve'.split(' ');

/** `6` or `six`; NaN for anything else. */
const numberOf = (text: string): number =>
  /^\d{1,3}$/.test(text)
    ? Number(text)
    : NUMBERS.includes(text.toLowerCase())
      ? NUMBERS.indexOf(text.toLowerCase())
      : Number.NaN;

export function readRepeats(words: Word[], take: Take): void {
  const times = (text: string) => {
    const match =
      /^(?:x|×)?\s?(\d{1,2})\s?(?:times|x|×)$/i.exec(text) ??
      /^(?:x|×)\s?(\d{1,2})$/i.exec(text) ??
      /^(\w+) times$/i.exec(text) ??
      /^for (\w+) weeks$/i.exec(text);
    const count = numberOf(match?.[1] ?? '');
    return count >= 2 && count <= 26 ? count : null;
  };
  let count: number | null = null;
  const counted: number[] = [];
  eachRun(words, 3, times, (at, length, value) => {
    count = value;
    for (let k = at; k < at + length; k++) counted.push(k);
  });
  const weeks = (text: string) => {
    if (/^(weekly|every week)$/i.test(text)) return 1;
    if (/^(fortnightly|biweekly)$/i.test(text)) return 2;
    const match = /^every (second|other|third|fourth|two|three|four|[234]) weeks?$/i.exec(text);
    return match ? WEEKS[match[1]!.toLowerCase()]! : null;
  };
  let repeats = false;
  eachRun(words, 3, weeks, (at, length, everyWeeks, text) => {
    repeats = true;
    take(at, length, { kind: 'weekly', words: text, everyWeeks, count });
  });
  // "every Tuesday" is weekly, and leaves the day to be read.
  eachRun(
    words,
    1,
    (text) => (/^every$/i.test(text) ? 1 : null),
    (at, length, everyWeeks, text) => {
      if (!words[at + 1] || !/^(mon|tue|wed|thu|fri|sat|sun)/i.test(words[at + 1]!.text)) return;
      repeats = true;
      take(at, length, { kind: 'weekly', words: text, everyWeeks, count });
    },
  );
  if (repeats) for (const k of counted) words[k]!.taken = true;
}

/** One number with its unit, or hours and minutes; a bare number is no length. */
const LENGTH = /^(\d+([.,]\d+)?\s?(m|mins?|minutes?|h|hrs?|hours?)|\d+\s?h\s?\d{1,2}m?)$/i;

function lengthIn(text: string): number | null {
  if (/^half an hour$/i.test(text)) return 30;
  if (/^(a )?quarter of an hour$/i.test(text)) return 15;
  if (/^an hour and a half$/i.test(text)) return 90;
  if (/^an hour$/i.test(text)) return 60;
  const halves = /^(\w+) and a half hours?$/i.exec(text);
  if (halves) return numberOf(halves[1]!) * 60 + 30 || null;
  const spelt = /^([a-z]+) (hours?|minutes?)$/i.exec(text);
  if (spelt) return numberOf(spelt[1]!) * (/^h/i.test(spelt[2]!) ? 60 : 1) || null;
  return LENGTH.test(text)
    ? parseLength(text.replace(/hrs?$/i, 'h').replace(/mins$/i, 'min'))
    : null;
}

export function readLengths(words: Word[], take: Take): void {
  const length = (text: string) => {
    const minutes = lengthIn(text);
    return minutes !== null && minutes >= 1 && minutes <= 1440 ? minutes : null;
  };
  eachRun(words, 5, length, (at, count, minutes, text) => {
    take(at, count, { kind: 'length', words: text, minutes });
  });
}

const CLOCK = '(?:noon|midnight|\\d{1,2}(?:[:.]\\d{2})?\\s?(?:[ap]m)?)';
const RANGE = new RegExp(`^(from )?(${CLOCK}) (?:to|until|till|-) (${CLOCK})$`, 'i');
const BETWEEN = new RegExp(`^between (${CLOCK}) and (${CLOCK})$`, 'i');
const EDGE = new RegExp(`^(after|before|not before) (${CLOCK})$`, 'i');

/** Two times of day; "2 to 3pm" is read in the half of the day that the second is in. */
function twoTimes(first: string, second: string): [number, number] | null {
  const half = /[ap]m$/i.exec(second)?.[0];
  const end = parseTimeOfDay(second);
  const plain = parseTimeOfDay(first);
  const inHalf = half && !/[ap]m$/i.test(first) ? parseTimeOfDay(`${first}${half}`) : plain;
  const start = inHalf !== null && end !== null && inHalf < end ? inHalf : plain;
  return start !== null && end !== null && start < end ? [start, end] : null;
}

/** "14:00 to 15:30" is a time and a length; "between 10 and 12" and "after 15:00" say when it may be. */
export function readRanges(words: Word[], take: Take): void {
  const isTime = (text: string) => /[:.ap]|noon/i.test(text);
  const range = (text: string) => {
    const match = RANGE.exec(text);
    if (!match || !(match[1] || isTime(match[2]!) || isTime(match[3]!))) return null;
    return twoTimes(match[2]!, match[3]!);
  };
  eachRun(words, 6, range, (at, count, [start, end], text) => {
    take(at, count, { kind: 'time', words: text, minute: start });
    take(at, count, { kind: 'length', words: text, minutes: end - start });
  });
  const between = (text: string): [number, number] | null => {
    const match = BETWEEN.exec(text);
    if (match) return twoTimes(match[1]!, match[2]!);
    const edge = EDGE.exec(text);
    const minute = edge && parseTimeOfDay(edge[2]!);
    if (minute === null || minute === undefined) return null;
    return /^before/i.test(text) ? [0, minute] : [minute, 1440];
  };
  eachRun(words, 6, between, (at, count, [from, to], text) => {
    take(at, count, { kind: 'between', words: text, from, to });
  });
}

export function findTimes(words: Word[], take: Take): void {
  const clock = (text: string) =>
    /^(noon|midnight|\d{1,2}[:.]\d{2}\s?([ap]m?)?|\d{1,2}\s?[ap]m|\d{1,2}\s?o[’']clock)$/i.test(
      text,
    )
      ? parseTimeOfDay(text.replace(/\s?o[’']clock$/i, ''))
      : null;
  eachRun(words, 2, clock, (at, count, minute, text) => {
    take(at, count, { kind: 'time', words: text, minute });
  });
  // "at 1045" and "at 9" are times too.
  words.forEach((word, at) => {
    const bare = words[at + 1];
    if (!/^(at|@)$/i.test(word.text) || !bare || bare.taken || !/^\d{1,4}$/.test(bare.text)) return;
    const minute = parseTimeOfDay(bare.text);
    if (minute !== null) take(at, 2, { kind: 'time', words: `at ${bare.text}`, minute });
  });
}

/** Parts of a day, in minutes after midnight. */
const PARTS: Record<string, [from: number, to: number]> = {
  morning: [8 * 60, 12 * 60],
  afternoon: [12 * 60, 17 * 60],
  evening: [17 * 60, 21 * 60],
  night: [17 * 60, 23 * 60],
};

/** "tomorrow afternoon", "Monday morning", "this evening", "tonight". */
export function readParts(words: Word[], take: Take, today: string): void {
  words.forEach((word, at) => {
    if (word.taken) return;
    const text = word.text.toLowerCase();
    const part = text === 'tonight' ? PARTS.night : PARTS[text];
    if (!part) return;
    const before = words[at - 1];
    const isToday = text === 'tonight' || (before && !before.taken && /^this$/i.test(before.text));
    const isSaid =
      isToday ||
      (before && (before.taken || /^(the|in)$/i.test(before.text) || DAY_LIKE.test(before.text)));
    if (!isSaid) return;
    const chip: Chip = { kind: 'between', words: word.text, from: part[0], to: part[1] };
    take(at, 1, chip);
    if (text === 'tonight') take(at, 1, { kind: 'day', words: word.text, date: today });
    else if (isToday) take(at - 1, 1, { kind: 'day', words: before!.text, date: today });
  });
}

const DAY_NAMES = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];
const DAY_NAME = '(mon|tue|tues|wed|wednes|thu|thur|thurs|fri|sat|satur|sun)(?:day)?';
const OF_WEEK = new RegExp(`^${DAY_NAME} (?:of )?(this|next) week$`, 'i');
const WEEKS_DAY = new RegExp(`^(this|next) week (?:on )?${DAY_NAME}$`, 'i');

export function readDays(words: Word[], take: Take, today: string): void {
  const ofWeek = (text: string) => {
    const match = OF_WEEK.exec(text) ?? WEEKS_DAY.exec(text);
    if (!match) return null;
    const [name, which] = /^(this|next)$/i.test(match[1]!)
      ? [match[2]!, match[1]!]
      : [match[1]!, match[2]!];
    const monday = addDays(startOfWeek(today), /next/i.test(which) ? 7 : 0);
    return addDays(monday, DAY_NAMES.indexOf(name.toLowerCase().slice(0, 3)));
  };
  eachRun(words, 4, ofWeek, (at, count, date, text) => {
    take(at, count, { kind: 'day', words: text, date });
  });
  const weeks = (text: string) =>
    /^next week$/i.test(text) ? 1 : /^this week$/i.test(text) ? 0 : null;
  eachRun(words, 2, weeks, (at, count, ahead, text) => {
    const monday = addDays(startOfWeek(today), 7 * ahead);
    const from = ahead === 0 ? today : monday;
    const days = Math.max(1, 6 - (ahead === 0 ? weekdayOf(today) : 1));
    take(at, count, { kind: 'days', words: text, from, days });
  });
  const day = (text: string) => {
    if (/^(the )?day after tomorrow$/i.test(text)) return addDays(today, 2);
    const ahead = /^in (\w+) (day|week)s?$/i.exec(text);
    if (ahead) {
      const count = /^an?$/i.test(ahead[1]!) ? 1 : numberOf(ahead[1]!);
      return count > 0 ? addDays(today, count * (/^w/i.test(ahead[2]!) ? 7 : 1)) : null;
    }
    // A month alone is no day, and may be a name.
    return DAY_LIKE.test(text) && !MONTH_ALONE.test(text) ? readDay(text, today, true) : null;
  };
  eachRun(words, 4, day, (at, count, date, text) => {
    if (!words[at]!.taken) take(at, count, { kind: 'day', words: text, date });
  });
}

const MONTH_ALONE = /^(jan|feb|mar|apr|may|june?|july?|aug|sept?|oct|nov|dec)([a-z]*)$/i;

/** Words by which a day is meant; others are not shown to the reader of dates. */
const DAY_LIKE =
  /\b(today|tomorrow|mon(day)?|tue(s|sday)?|wed(nesday)?|thu(r|rs|rsday)?|fri(day)?|sat(urday)?|sun(day)?|jan(uary)?|feb(ruary)?|mar(ch)?|apr(il)?|may|june?|july?|aug(ust)?|sep(t|tember)?|oct(ober)?|nov(ember)?|dec(ember)?|in \d+ (days?|weeks?))\b|^\d{4}-\d\d-\d\d$|^\d{1,2}[./]\d{1,2}\.?(\d{2,4})?$/i;
