import { isMailAddress } from '../mailAddress.ts';
import { numberOf } from '../time/numberWords.ts';
import { isCommon } from './commonWords.ts';
import {
  MOST_WORDS,
  named,
  placeNamed,
  whoNamed,
  type Meaning,
  type SentenceNames,
} from './meaning.ts';
import { nameIn, type Named } from './names.ts';
import { readRooms } from './rooms.ts';
import { readWhen } from './when.ts';
import {
  JOINERS,
  longest,
  wordsOf,
  type Chip,
  type Placed,
  type Reader,
  type Reading,
  type Word,
} from './words.ts';
import { readZone } from './zone.ts';

export type { SentenceNames } from './meaning.ts';
export type { Chip, Reader } from './words.ts';
const OPTIONAL = /^(maybe|perhaps|optionally|optional|possibly)$/i;
const WITH = /^(with|w\/)$/i;
const ABOUT = /^(about|regarding|re)$/i;
const EVERYONE = /^(everyone|everybody|all|whole)$/i;
/** By what somebody is left out, in as many words. */
const EXCEPT: [count: number, words: RegExp][] = [
  [2, /^(but (not|without)|except for|other than|apart from)$/i],
  [1, /^(except|excluding|minus|without|sans|not)$/i],
];

/**
 * Reads a sentence such as "kelp review with Ines and Tomas Thu 14:00 45m in Gannet". Whole words come
 * before forgiven ones, and a name needs a reason: that it stands after "with", "in" or "at", that it is
 * somebody's exactly, or that nothing else is there. What the meeting is called is the first run of
 * words that say nothing else. Of what a meeting has one of, the first that is said counts.
 * @returns what was understood, in the order of the sentence; words that were not are `unread`
 */
export function readSentence(sentence: string, names: SentenceNames, reader: Reader): Chip[] {
  const words = wordsOf(sentence.replace(/\((optional|maybe)\)/gi, ' $1 '));
  const found: Placed[] = [];
  const reading = readingOf(words, reader, found);
  readWhen(reading);
  readZone(reading, names, found);
  readRooms(reading, names);
  const { title, unread } = readNames(reading, found, names);
  if (title.length > 0) {
    const text = title.map((at) => words[at]!.text).join(' ');
    found.push({ at: -1, chip: { kind: 'title', words: text, text: capital(text) } });
  }
  for (const at of unread) found.push({ at, chip: { kind: 'unread', words: words[at]!.text } });
  return onlyOne(found.sort((a, b) => a.at - b.at).map((one) => one.chip));
}

/** A reading of words whose chips are kept with where they stand. */
export const readingOf = (words: Word[], reader: Reader, found: Placed[]): Reading => ({
  words,
  reader,
  take: (at, count, chip) => {
    for (const word of words.slice(at, at + count)) {
      word.taken = true;
      word.as = chip.kind;
    }
    found.push({ at, chip });
  },
});

/** Of what a meeting has one. */
const ONE_OF: Partial<Record<Chip['kind'], string>> = {
  day: 'day',
  days: 'day',
  time: 'time',
  between: 'part of the day',
  length: 'length',
  weekly: 'way to repeat',
  repeats: 'way to repeat',
};

/** Leaves one of what a meeting has one of, and says so of the others. */
function onlyOne(chips: readonly Chip[]): Chip[] {
  const had = new Set<string>();
  return chips.map((chip): Chip => {
    const what = ONE_OF[chip.kind];
    if (what === undefined || !had.has(what)) {
      if (what !== undefined) had.add(what);
      return chip;
    }
    return { kind: 'unread', words: chip.words, why: `only one ${what} is taken` };
  });
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** What a place in a sentence is part of. */
type Among = 'title' | 'names';

/**
 * Reads who and where, and leaves what the meeting is called: positions of the title's words, and of
 * those that nothing was made of.
 */
function readNames(
  reading: Reading,
  found: Placed[],
  names: SentenceNames,
): { title: number[]; unread: number[] } {
  const { words, take } = reading;
  const title: number[] = [];
  const unread: number[] = [];
  const hasWith = words.some((word) => WITH.test(word.text) && !word.taken);
  let among: Among = 'title';
  let optional = false;
  let leavesOut = false;
  const person = (at: number) =>
    named(words, at, (text, spelling) => {
      const who = isCommon(text) ? null : nameIn(text, names.people, spelling);
      return who && ({ kind: 'person', ...who } as const);
    });
  const takeNamed = (at: number, count: number, text: string, meaning: Meaning) => {
    take(at, count, chipOf(meaning, text, optional));
    if (meaning.kind === 'person' || meaning.kind === 'team') optional = false;
  };
  const takeExcept = (at: number, skipped: number): boolean => {
    const who = person(at + skipped);
    if (!who) return false;
    const { best, others } = who.value;
    const { id, name } = best;
    take(at, skipped + who.count, { kind: 'except', words: who.text, id, name, others });
    leavesOut = true;
    among = 'names';
    return true;
  };
  for (let at = 0; at < words.length; at++) {
    const word = words[at]!;
    if (word.taken) continue;
    const before = words[at - 1];
    const left = exceptAt(words, at);
    if (left > 0 && takeExcept(at, left)) continue;
    if (leavesOut && !JOINERS.test(word.text) && takeExcept(at, 0)) continue;
    if (WITH.test(word.text)) {
      among = 'names';
      leavesOut = false;
      continue;
    }
    const all = teamAfterAll(words, at, names);
    if (all) {
      takeNamed(at, all.count, all.text, { kind: 'team', team: all.team });
      if (title.length > 0) among = 'names';
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
    if (before && /^(in|at|@)$/i.test(before.text)) {
      const place = named(words, at, (text, spelling) => placeNamed(text, names, spelling));
      if (place) {
        // "in" belongs to the place, and not to the title before it.
        if (title.at(-1) === at - 1) title.pop();
        takeNamed(at, place.count, place.text, place.value);
        continue;
      }
    }
    if (OPTIONAL.test(word.text)) {
      const isBefore = person(at + 1) !== null || isMailAddress(words[at + 1]?.text ?? '');
      if (isBefore) {
        optional = true;
        among = 'names';
        continue;
      }
      // "with Hal optional"
      if (among === 'names' && makeOptional(found)) {
        word.taken = true;
        continue;
      }
    }
    if (among === 'names') {
      if (/^(teams?|group|people)$/i.test(word.text) && before?.as === 'team') word.taken = true;
      else if (/^rooms?$/i.test(word.text))
        take(at, 1, {
          kind: 'room',
          words: word.text,
          siteId: null,
          features: [],
          seats: null,
          name: 'a room at each site',
        });
      else if (!JOINERS.test(word.text)) {
        const who = named(
          words,
          at,
          (text, spelling) => whoNamed(text, names, spelling) ?? placeNamed(text, names, spelling),
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
    if (begins && JOINERS.test(word.text) && !isRoomForSomething(words, at)) continue;
    if (begins || title.at(-1) === at - 1) title.push(at);
    else if (!JOINERS.test(word.text)) unread.push(at);
  }
  // What only holds words together does not end a title.
  while (title.length > 0 && JOINERS.test(words[title.at(-1)!]!.text)) title.pop();
  return { title: alone(words, title, names, take), unread };
}

/** "Room for growth" is what a meeting is called, and "room for 6" is where it is. */
const isRoomForSomething = (words: readonly Word[], at: number): boolean =>
  /^rooms?$/i.test(words[at]!.text) &&
  /^for$/i.test(words[at + 1]?.text ?? '') &&
  words[at + 2] !== undefined &&
  !words[at + 2]!.taken &&
  !(numberOf(words[at + 2]!.text) >= 1);

/** How many words at a place leave out who is named next; 0 where they do not. */
const exceptAt = (words: readonly Word[], at: number): number =>
  EXCEPT.find(([count, said]) => {
    const run = words.slice(at, at + count);
    return run.every((word) => !word.taken) && said.test(run.map((word) => word.text).join(' '));
  })?.[0] ?? 0;

/** "everyone in Kelp Forests", "all of sea ice". */
function teamAfterAll(
  words: readonly Word[],
  at: number,
  names: SentenceNames,
): { count: number; text: string; team: SentenceNames['teams'][number] } | null {
  if (!EVERYONE.test(words[at]!.text)) return null;
  let from = at + 1;
  if (/^(in|from|of|at)$/i.test(words[from]?.text ?? '')) from++;
  if (/^the$/i.test(words[from]?.text ?? '')) from++;
  const team = named(words, from, (text, spelling) =>
    nameIn(text, names.teams, { ...spelling, whole: true }),
  );
  if (!team) return null;
  return {
    count: from - at + team.count,
    text: team.text,
    team: team.value.best as SentenceNames['teams'][number],
  };
}

/** Makes whoever was named last optional. */
function makeOptional(found: readonly Placed[]): boolean {
  const last = found.findLast(
    ({ chip }) => chip.kind === 'person' || chip.kind === 'team' || chip.kind === 'address',
  );
  if (!last) return false;
  last.chip = { ...last.chip, optional: true } as Chip;
  return true;
}

/** A title that is nothing but the exact name of a team or a place is that. */
function alone(
  words: readonly Word[],
  title: readonly number[],
  names: SentenceNames,
  take: Reading['take'],
): number[] {
  const text = title.map((at) => words[at]!.text).join(' ');
  // Who is left out is left out of a team.
  const isOnly =
    words.some((word) => word.as === 'except') ||
    words.every((word, at) => word.taken || title.includes(at) || JOINERS.test(word.text));
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
        features: [],
        seats: null,
        name: `a room in ${meaning.site.name}`,
      };
  }
}
