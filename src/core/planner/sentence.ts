import { isMailAddress } from '../mailAddress.ts';
import { isCommon } from '../sentence/commonWords.ts';
import { nameIn, type Named, type Reading } from '../sentence/names.ts';
import {
  readDays,
  readLengths,
  readParts,
  readRanges,
  readRepeats,
  findTimes,
} from '../sentence/when.ts';
import { longest, type Chip, type Take, type Word } from '../sentence/words.ts';

export type { Chip } from '../sentence/words.ts';

/** What a sentence can name. */
export interface SentenceNames {
  people: readonly Named[];
  teams: readonly (Named & { memberIds: readonly number[] })[];
  resources: readonly (Named & { kind: string })[];
  sites: readonly (Named & { city: string })[];
}

/** Words that only hold a sentence together. */
const JOINERS =
  /^(and|with|w\/|plus|&|,|;|:|-|in|at|@|on|the|for|a|an|room|rooms|from|about|regarding|re|me|myself|us|please|or)$/i;
const OPTIONAL = /^(maybe|optionally|optional)$/i;
const WITH = /^(with|w\/)$/i;
const ABOUT = /^(about|regarding|re)$/i;
/** "2pm-3pm" and "14:00-15:30" in three; a date such as 2026-11-26 and names stay whole. */
const rangeApart = (word: string): string[] => {
  const ends = /^(\d[\d:.]*[ap]?m?)-(\d[\d:.]*[ap]?m?)$/i.exec(word);
  return ends ? [ends[1]!, '-', ends[2]!] : [word];
};

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
    .split(/\s+/)
    .filter(Boolean)
    .flatMap(rangeApart)
    .map((text): Word => ({ text, taken: false }));
  const found: { at: number; chip: Chip }[] = [];
  const take = (at: number, count: number, chip: Chip) => {
    for (let k = at; k < at + count; k++) words[k]!.taken = true;
    found.push({ at, chip });
  };
  readRepeats(words, take);
  readRanges(words, take);
  readLengths(words, take);
  findTimes(words, take);
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

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

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
    if (isMailAddress(word.text)) {
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
