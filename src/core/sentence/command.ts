import { nameIn, type Named } from './names.ts';
import { readingOf, type Reader, type SentenceNames } from './sentence.ts';
import { readWhen } from './when.ts';
import { longest, wordsOf, type Chip, type Word } from './words.ts';

/** Something that is there, and what is to be done with it: "book Puffin", "move kelp review to Fri 14:00". */
export type Command = {
  /** When, as it was said. */
  chips: readonly Chip[];
} & (
  | { verb: 'book'; place: Named; others: readonly Named[] }
  /** By words of what the meeting is called. */
  | { verb: 'move' | 'cancel'; title: string }
);

const VERBS: Record<string, Command['verb']> = {
  book: 'book',
  reserve: 'book',
  move: 'move',
  reschedule: 'move',
  postpone: 'move',
  shift: 'move',
  cancel: 'cancel',
};
const MOST_WORDS = 4;
const ARTICLE = /^(the|my|our|a|an)$/i;

/**
 * Reads a sentence that begins with what is to be done with something that is there.
 * @returns null where it begins with no such word, or names nothing
 */
export function readCommand(
  sentence: string,
  names: Pick<SentenceNames, 'resources'>,
  reader: Reader,
): Command | null {
  const words = wordsOf(sentence);
  const verb = VERBS[words[0]?.text.toLowerCase() ?? ''];
  if (!verb || !Object.hasOwn(VERBS, words[0]!.text.toLowerCase()) || words.length < 2) return null;
  words[0]!.taken = true;
  const found: { at: number; chip: Chip }[] = [];
  const from = ARTICLE.test(words[1]!.text) ? 2 : 1;
  if (verb === 'book') {
    const place = longest(words, from, MOST_WORDS, (text) =>
      nameIn(text, names.resources, { whole: true }),
    );
    if (!place) return null;
    for (const word of words.slice(0, from + place.count)) word.taken = true;
    readWhen(readingOf(words, reader, found));
    const { best, others } = place.value;
    return { verb, place: best, others, chips: chipsOf(found) };
  }
  // What stands behind "to" is when it is to be; a meeting may be called by a time.
  const to = words.findLastIndex(
    (word, at) => at > from && /^(to|until|on|at|by)$/i.test(word.text),
  );
  const title = titleOf(words, from, verb === 'move' ? to : -1, (reading) =>
    readWhen(readingOf(reading, reader, found)),
  );
  return title ? { verb, title, chips: chipsOf(found) } : null;
}

const chipsOf = (found: readonly { at: number; chip: Chip }[]): Chip[] =>
  [...found].sort((a, b) => a.at - b.at).map(({ chip }) => chip);

/** The words that say what a meeting is called; what says when is read from the others. */
function titleOf(
  words: Word[],
  from: number,
  to: number,
  readTimes: (words: Word[]) => void,
): string {
  if (to > from) {
    readTimes([{ text: 'at', taken: false }, ...words.slice(to + 1)]);
    for (const word of words.slice(to)) word.taken = true;
  } else readTimes(words.slice(from));
  return words
    .slice(from)
    .filter((word) => !word.taken)
    .map((word) => word.text)
    .join(' ');
}
