import { readDay } from '../time/typedDay.ts';
import { parseLength, parseTimeOfDay } from '../time/typedTime.ts';
import { addDays, startOfWeek, weekdayOf } from '../time/wall.ts';
import { isCommon } from './commonWords.ts';
import { nameIn, type Named, type Reading } from './names.ts';

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
  | { kind: 'between'; from: number; to: number }
  | { kind: 'length'; minutes: number }
  | { kind: 'weekly'; everyWeeks: number; count: number | null }
  | { kind: 'unread' }
);

interface Word {
  text: string;
  /** Taken by what was understood. */
  taken: boolean;
}

/** Words that only hold a sentence together. */
const JOINERS =
  /^(and|with|w\/|plus|&|,|;|:|-|in|at|@|on|the|for|a|an|room|rooms|from|about|regarding|re|me|myself|us|please|or)$/i;
const OPTIONAL = /^(maybe|optionally|optional)$/i;
const WITH = /^(with|w\/)$/i;
const ABOUT = /^(about|regarding|re)$/i;
/** Longer names than this have no more words. */
const MOST_WORDS = 4;

/**
 * Reads a sentence such as "kelp review with Ines and Tomas Thu 14:00 45m in Gannet". Whole words come
 * before forgiven ones, and a name needs a reason: that it stands after "with", "in" or "at", that it is
 * somebody's exactly, or that nothing else is there. What the meeting is called is the first run of
 * words that say nothing else.
 * @param today `YYYY-MM-DD` on the reader's clock
 * @returns what was understood, in the order of the sentence; words that were not are `unread`
 */
export function readSentence(sentence: string, names: SentenceNames, today: string): Chip[] {
  const words = sentence
    .replace(/[–—]/g, '-')
    .replace(/([,;])/g, ' $1 ')
    .replace(/:(?=\s|$)/g, ' : ')
    // "2pm-3pm" and "14:00-15:30", but not "2026-11-26" nor "Tu-Anh".
    .replace(/(\d[ap]?m?)-(?=\d{1,2}([:.]\d\d|[ap]m|\s|$))/gi, (all, before: string) =>
      /\d{4}-\d\d/.test(sentence) ? all : `${before} - `,
    )
    .split(/\s+/)
    .filter(Boolean)
    .map((text): Word => ({ text, taken: false }));
  const found: { at: number; chip: Chip }[] = [];
  const take = (at: number, count: number, chip: Chip) => {
    for (let k = at; k < at + count; k++) words[k]!.taken = true;
    found.push({ at, chip });
  };
  readRepeats(words, take);
  readRanges(words, take);
  readLengths(words, take);
  readTimes(words, take);
  readParts(words, take, today);
  readDays(words, take, today);
  const { title, unread } = readNames(words, take, names);
  if (title.length > 0) {
    const text = title.map((at) => words[at]!.text).join(' ');
    found.push({ at: -1, chip: { kind: 'title', words: text, text: capital(text) } });
  }
  for (const at of unread) found.push({ at, chip: { kind: 'unread', words: words[at]!.text } });
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

function readRepeats(words: Word[], take: Take): void {
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

function readLengths(words: Word[], take: Take): void {
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
function readRanges(words: Word[], take: Take): void {
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

function readTimes(words: Word[], take: Take): void {
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
function readParts(words: Word[], take: Take, today: string): void {
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

function readDays(words: Word[], take: Take, today: string): void {
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

/** What a run of words names. */
type Meaning =
  | { kind: 'team'; team: SentenceNames['teams'][number] }
  | { kind: 'person'; best: Named; others: readonly Named[] }
  | { kind: 'resource'; best: Named; others: readonly Named[] }
  | { kind: 'site'; site: Named };

function placeNamed(text: string, names: SentenceNames, reading: Reading): Meaning | null {
  const resource = nameIn(text, names.resources, { ...reading, whole: true });
  if (resource) return { kind: 'resource', ...resource };
  const cities = citiesOf(names);
  const site =
    nameIn(text, cities, reading) ?? nameIn(text, names.sites, { ...reading, whole: true });
  return site ? { kind: 'site', site: site.best } : null;
}

const cities = new WeakMap<SentenceNames['sites'], Named[]>();
function citiesOf({ sites }: SentenceNames): Named[] {
  let known = cities.get(sites);
  if (!known) cities.set(sites, (known = sites.map(({ id, city }) => ({ id, name: city }))));
  return known;
}

function whoNamed(text: string, names: SentenceNames, reading: Reading): Meaning | null {
  const team = nameIn(text, names.teams, { ...reading, whole: true });
  const person = nameIn(text, names.people, reading);
  // The whole name of a team comes before a part of somebody's.
  if (team && (!person || text.includes(' ') || !reading.exact))
    return { kind: 'team', team: team.best as SentenceNames['teams'][number] };
  if (person) return { kind: 'person', ...person };
  return team ? { kind: 'team', team: team.best as SentenceNames['teams'][number] } : null;
}

/** A run that begins or ends with a word that joins is no name. */
function named<T>(
  words: readonly Word[],
  at: number,
  read: (text: string, reading: Reading) => T | null,
): { value: T; count: number; text: string } | null {
  const whole = (reading: Reading) => (text: string) => {
    const parts = text.split(' ');
    const ends = [parts[0]!, parts.at(-1)!];
    return ends.some((word) => JOINERS.test(word) || WITH.test(word)) ? null : read(text, reading);
  };
  return (
    longest(words, at, MOST_WORDS, whole({ exact: true })) ??
    longest(words, at, MOST_WORDS, whole({}))
  );
}

/**
 * Reads who and where, and leaves what the meeting is called: positions of the title's words, and of
 * those that nothing was made of.
 */
function readNames(
  words: Word[],
  take: Take,
  names: SentenceNames,
): { title: number[]; unread: number[] } {
  const title: number[] = [];
  const unread: number[] = [];
  const hasWith = words.some((word) => WITH.test(word.text) && !word.taken);
  let among: 'title' | 'names' = 'title';
  let optional = false;
  const takeNamed = (at: number, count: number, text: string, meaning: Meaning) => {
    take(at, count, chipOf(meaning, text, optional));
    if (meaning.kind === 'person' || meaning.kind === 'team') optional = false;
  };
  for (let at = 0; at < words.length; at++) {
    const word = words[at]!;
    if (word.taken) continue;
    const before = words[at - 1];
    if (WITH.test(word.text)) {
      among = 'names';
      continue;
    }
    if (ABOUT.test(word.text) && (title.length === 0 || among === 'names')) {
      among = 'title';
      continue;
    }
    if (word.text === ':') {
      if (title.length === 0) among = 'title';
      continue;
    }
    if (/^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(word.text)) {
      take(at, 1, { kind: 'address', words: word.text, email: word.text, optional });
      optional = false;
      continue;
    }
    const isPlaced = before && /^(in|at|@)$/i.test(before.text);
    if (isPlaced) {
      const place = named(words, at, (text, reading) => placeNamed(text, names, reading));
      if (place) {
        // "in" belongs to the place, and not to the title before it.
        if (title.at(-1) === at - 1) title.pop();
        takeNamed(at, place.count, place.text, place.value);
        continue;
      }
    }
    if (among === 'names') {
      if (OPTIONAL.test(word.text)) optional = true;
      else if (/^rooms?$/i.test(word.text))
        take(at, 1, { kind: 'room', words: word.text, siteId: null, name: 'a room at each site' });
      else if (!JOINERS.test(word.text)) {
        const who = named(
          words,
          at,
          (text, reading) => whoNamed(text, names, reading) ?? placeNamed(text, names, reading),
        );
        if (who && !(who.count === 1 && isCommon(word.text) && !isExactWhole(who.value, word.text)))
          takeNamed(at, who.count, who.text, who.value);
        else unread.push(at);
      }
      continue;
    }
    // Somebody's exact name is a reason where nobody is named with "with".
    const exactly = hasWith
      ? null
      : longest(words, at, MOST_WORDS, (text) =>
          text.split(' ').some((one) => JOINERS.test(one)) || isCommon(text)
            ? null
            : nameIn(text, names.people, { exact: true }),
        );
    if (exactly) {
      takeNamed(at, exactly.count, exactly.text, { kind: 'person', ...exactly.value });
      // From one name on, others follow: "Ines and Tomas tomorrow".
      if (title.length > 0) among = 'names';
      continue;
    }
    const begins = title.length === 0;
    if (begins && JOINERS.test(word.text)) continue;
    if (begins || title.at(-1) === at - 1) title.push(at);
    else if (!JOINERS.test(word.text)) unread.push(at);
  }
  // What only holds words together does not end a title.
  while (title.length > 0 && JOINERS.test(words[title.at(-1)!]!.text)) title.pop();
  return { title: alone(words, title, names, take), unread };
}

/** A title that is nothing but the exact name of a team or a place is that. */
function alone(
  words: readonly Word[],
  title: readonly number[],
  names: SentenceNames,
  take: Take,
): number[] {
  const text = title.map((at) => words[at]!.text).join(' ');
  const isOnly = words.every(
    (word, at) => word.taken || title.includes(at) || JOINERS.test(word.text),
  );
  if (!isOnly || title.length === 0 || words.some((word) => WITH.test(word.text)))
    return [...title];
  const team = nameIn(text, names.teams, { exact: true, whole: true });
  const isWhole = (one: Named | undefined) =>
    one !== undefined && one.name.toLowerCase() === text.toLowerCase();
  const meaning: Meaning | null = isWhole(team?.best)
    ? { kind: 'team', team: team!.best as SentenceNames['teams'][number] }
    : placeNamed(text, names, { exact: true });
  if (!meaning || meaning.kind === 'site') return [...title];
  take(title[0]!, title.length, chipOf(meaning, text, false));
  return [];
}

const isExactWhole = (meaning: Meaning, text: string): boolean => {
  const { name } =
    meaning.kind === 'team' ? meaning.team : meaning.kind === 'site' ? meaning.site : meaning.best;
  return name.toLowerCase() === text.toLowerCase();
};

function chipOf(meaning: Meaning, words: string, optional: boolean): Chip {
  switch (meaning.kind) {
    case 'team': {
      const { id, name, memberIds } = meaning.team;
      return { kind: 'team', words, id, name, memberIds, optional };
    }
    case 'person': {
      const { best, others } = meaning;
      return { kind: 'person', words, id: best.id, name: best.name, optional, others };
    }
    case 'resource': {
      const { best, others } = meaning;
      return { kind: 'resource', words, id: best.id, name: best.name, others };
    }
    case 'site':
      return {
        kind: 'room',
        words,
        siteId: meaning.site.id,
        name: `a room in ${meaning.site.name}`,
      };
  }
}
