import { readDay } from '../time/typedDay.ts';
import { parseLength, parseTimeOfDay } from '../time/typedTime.ts';
import { addDays, startOfWeek, weekdayOf } from '../time/wall.ts';
import { nameIn, type Named } from './names.ts';

/** What a sentence can name. */
export interface SentenceNames {
  people: readonly Named[];
  teams: readonly (Named & { memberIds: readonly number[] })[];
  resources: readonly (Named & { kind: string })[];
  sites: readonly (Named & { city: string })[];
}

/** One thing understood of a sentence; `words` are those of the sentence that say it. */
export type Chip = { words: string } & (
  | { kind: 'title'; text: string }
  | { kind: 'person'; id: number; name: string; optional: boolean; others: readonly Named[] }
  | { kind: 'team'; id: number; name: string; memberIds: readonly number[]; optional: boolean }
  | { kind: 'address'; email: string; optional: boolean }
  | { kind: 'resource'; id: number; name: string; others: readonly Named[] }
  | { kind: 'room'; siteId: number | null; name: string }
  | { kind: 'day'; date: string }
  | { kind: 'days'; from: string; days: number }
  | { kind: 'time'; minute: number }
  | { kind: 'length'; minutes: number }
  | { kind: 'weekly'; everyWeeks: number; count: number | null }
  | { kind: 'unread' }
);

interface Word {
  text: string;
  /** Taken by what was understood. */
  taken: boolean;
}

const JOINERS = /^(and|with|plus|&|,|in|at|on|the|for|a|an|room|from)$/i;
const OPTIONAL = /^(maybe|optionally|optional)$/i;

/**
 * Reads a sentence such as "kelp review with Ines and Tomas Thu 14:00 45m in Gannet".
 * @param today `YYYY-MM-DD` on the reader's clock
 * @returns what was understood, in the order of the sentence; words that were not are `unread`
 */
export function readSentence(sentence: string, names: SentenceNames, today: string): Chip[] {
  const words = sentence
    .replace(/,/g, ' , ')
    .split(/\s+/)
    .filter(Boolean)
    .map((text): Word => ({ text, taken: false }));
  const found: { at: number; chip: Chip }[] = [];
  const take = (at: number, count: number, chip: Chip) => {
    for (let k = at; k < at + count; k++) words[k]!.taken = true;
    found.push({ at, chip });
  };
  readRepeats(words, take);
  readLengths(words, take);
  readTimes(words, take);
  readDays(words, take, today);
  const title = titleEnd(words, names);
  readNames(words, take, names, title);
  const subject = words.slice(0, title).filter((word) => !word.taken);
  if (subject.length > 0) {
    const text = subject.map((word) => word.text).join(' ');
    found.push({ at: -1, chip: { kind: 'title', words: text, text: capital(text) } });
  }
  words.forEach((word, at) => {
    const joins = JOINERS.test(word.text) || OPTIONAL.test(word.text);
    if (at >= title && !word.taken && !joins)
      found.push({ at, chip: { kind: 'unread', words: word.text } });
  });
  return found.sort((a, b) => a.at - b.at).map((one) => one.chip);
}

type Take = (at: number, count: number, chip: Chip) => void;

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The longest run of free words from `at` on that `read` makes something of. */
function longest<T>(
  words: readonly Word[],
  at: number,
  most: number,
  read: (text: string) => T | null,
): { value: T; count: number; text: string } | null {
  for (let count = Math.min(most, words.length - at); count >= 1; count--) {
    const run = words.slice(at, at + count);
    if (run.some((word) => word.taken)) continue;
    const text = run.map((word) => word.text).join(' ');
    const value = read(text);
    if (value !== null) return { value, count, text };
  }
  return null;
}

function eachRun<T>(
  words: readonly Word[],
  most: number,
  read: (text: string) => T | null,
  use: (at: number, count: number, value: T, text: string) => void,
): void {
  for (let at = 0; at < words.length; at++) {
    const run = longest(words, at, most, read);
    if (run) use(at, run.count, run.value, run.text);
  }
}

const WEEKS: Record<string, number> = {
  second: 2,
  other: 2,
  '2': 2,
  '3': 3,
  third: 3,
  '4': 4,
  fourth: 4,
};

function readRepeats(words: Word[], take: Take): void {
  const times = (text: string) => {
    const match =
      /^(?:x|×)?\s?(\d{1,2})\s?(?:times|x|×)$/i.exec(text) ?? /^(?:x|×)\s?(\d{1,2})$/i.exec(text);
    const count = Number(match?.[1]);
    return count >= 2 && count <= 26 ? count : null;
  };
  let count: number | null = null;
  const counted: number[] = [];
  eachRun(words, 2, times, (at, length, value) => {
    count = value;
    for (let k = at; k < at + length; k++) counted.push(k);
  });
  const weeks = (text: string) => {
    if (/^(weekly|every week)$/i.test(text)) return 1;
    if (/^(fortnightly|biweekly)$/i.test(text)) return 2;
    const match = /^every (second|other|third|fourth|[234]) weeks?$/i.exec(text);
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
const LENGTH = /^(\d+([.,]\d+)?\s?(m|min|minutes?|h|hours?)|\d+\s?h\s?\d{1,2}m?)$/i;

function readLengths(words: Word[], take: Take): void {
  const length = (text: string) => {
    if (/^half an hour$/i.test(text)) return 30;
    if (/^an hour$/i.test(text)) return 60;
    const minutes = LENGTH.test(text) ? parseLength(text) : null;
    return minutes !== null && minutes <= 1440 ? minutes : null;
  };
  eachRun(words, 3, length, (at, count, minutes, text) => {
    take(at, count, { kind: 'length', words: text, minutes });
  });
}

function readTimes(words: Word[], take: Take): void {
  const clock = (text: string) =>
    /^(noon|midnight|\d{1,2}[:.]\d{2}\s?([ap]m?)?|\d{1,2}\s?[ap]m)$/i.test(text)
      ? parseTimeOfDay(text)
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

function readDays(words: Word[], take: Take, today: string): void {
  const weeks = (text: string) =>
    /^next week$/i.test(text) ? 1 : /^this week$/i.test(text) ? 0 : null;
  eachRun(words, 2, weeks, (at, count, ahead, text) => {
    const monday = addDays(startOfWeek(today), 7 * ahead);
    const from = ahead === 0 ? today : monday;
    const days = Math.max(1, 6 - (ahead === 0 ? weekdayOf(today) : 1));
    take(at, count, { kind: 'days', words: text, from, days });
  });
  const day = (text: string) => (DAY_LIKE.test(text) ? readDay(text, today, true) : null);
  eachRun(words, 4, day, (at, count, date, text) => {
    if (!words[at]!.taken) take(at, count, { kind: 'day', words: text, date });
  });
}

/** Words by which a day is meant; others are not shown to the reader of dates. */
const DAY_LIKE =
  /\b(today|tomorrow|mon(day)?|tue(s|sday)?|wed(nesday)?|thu(r|rs|rsday)?|fri(day)?|sat(urday)?|sun(day)?|jan(uary)?|feb(ruary)?|mar(ch)?|apr(il)?|may|june?|july?|aug(ust)?|sep(t|tember)?|oct(ober)?|nov(ember)?|dec(ember)?|in \d+ (days?|weeks?))\b|^\d{4}-\d\d-\d\d$|^\d{1,2}[./]\d{1,2}\.?(\d{2,4})?$/i;

/**
 * Where the title ends: before "with", else before the first word that was understood as something
 * else or that is somebody's exact name.
 */
function titleEnd(words: readonly Word[], names: SentenceNames): number {
  const by = words.findIndex((word) => /^with$/i.test(word.text));
  const understood = words.findIndex((word) => word.taken);
  const place = words.findIndex(
    (word, at) => /^(in|at)$/i.test(word.text) && !!placeAt(words, at + 1, names),
  );
  const exact = words.findIndex((_, at) => {
    if (by >= 0 && at < by) return false;
    return !!longest(words, at, 3, (text) => nameIn(text, names.people, { exact: true }));
  });
  const ends = [by, understood, place, by >= 0 ? -1 : exact].filter((at) => at >= 0);
  return ends.length ? Math.min(...ends) : words.length;
}

function placeAt(words: readonly Word[], at: number, names: SentenceNames) {
  return longest(words, at, 3, (text) => {
    const resource = nameIn(text, names.resources);
    if (resource) return { resource, site: null };
    const cities = names.sites.map((site) => ({ id: site.id, name: site.city }));
    const site = nameIn(text, cities) ?? nameIn(text, names.sites);
    return site ? { resource: null, site } : null;
  });
}

function readNames(words: Word[], take: Take, names: SentenceNames, from: number): void {
  let optional = false;
  for (let at = from; at < words.length; at++) {
    const word = words[at]!;
    if (word.taken) continue;
    if (OPTIONAL.test(word.text)) optional = true;
    else if (/^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(word.text)) {
      take(at, 1, { kind: 'address', words: word.text, email: word.text, optional });
      optional = false;
    } else if (/^room$/i.test(word.text)) {
      take(at, 1, { kind: 'room', words: word.text, siteId: null, name: 'a room at each site' });
    } else if (!JOINERS.test(word.text)) {
      if (/^(in|at)$/i.test(words[at - 1]?.text ?? '') && takePlace(words, take, names, at))
        continue;
      if (takePerson(words, take, names, at, optional)) optional = false;
      else takePlace(words, take, names, at);
    }
  }
}

function takePerson(
  words: Word[],
  take: Take,
  names: SentenceNames,
  at: number,
  optional: boolean,
): boolean {
  const run = longest(words, at, 3, (text) => {
    const team = nameIn(text, names.teams, { whole: true });
    if (team) return { team: team.best as SentenceNames['teams'][number], person: null };
    const person = nameIn(text, names.people);
    return person ? { team: null, person } : null;
  });
  if (!run) return false;
  const { team, person } = run.value;
  const { text } = run;
  if (team) {
    const { id, name, memberIds } = team;
    take(at, run.count, { kind: 'team', words: text, id, name, memberIds, optional });
  } else {
    const { best, others } = person!;
    take(at, run.count, {
      kind: 'person',
      words: text,
      id: best.id,
      name: best.name,
      optional,
      others,
    });
  }
  return true;
}

function takePlace(words: Word[], take: Take, names: SentenceNames, at: number): boolean {
  const run = placeAt(words, at, names);
  if (!run) return false;
  const { resource, site } = run.value;
  const { text } = run;
  if (resource) {
    const { best, others } = resource;
    take(at, run.count, { kind: 'resource', words: text, id: best.id, name: best.name, others });
  } else {
    const { id, name } = site!.best;
    take(at, run.count, { kind: 'room', words: text, siteId: id, name: `a room in ${name}` });
  }
  return true;
}
