import { isCommon } from './commonWords.ts';
import { plainLetters } from '../plainLetters.ts';
import { forgiven, mistakes } from './spelling.ts';

/** Somebody or something with a name. */
export interface Named {
  id: number;
  name: string;
}

/** Who is most likely meant by a name, and who else it could be. */
export interface NameFound<T extends Named> {
  best: T;
  others: T[];
}

const split = new WeakMap<readonly Named[], { one: Named; whole: string; parts: string[] }[]>();

function prepared(list: readonly Named[]) {
  let known = split.get(list);
  if (!known) {
    known = list.map((one) => {
      const whole = plainLetters(one.name);
      return { one, whole, parts: whole.split(/[\s-]+/) };
    });
    split.set(list, known);
  }
  return known;
}

/** What of a name may be written. */
export interface Spelling {
  /** Forgives no mistake. */
  exact?: boolean;
  /** Takes the whole name only, or all of its first words. */
  whole?: boolean;
}

/**
 * Finds a name in a list, whole or one of its words, some mistakes forgiven: the fewest mistakes
 * first, then whole names, then first words, then the order of the list. Common words are no names
 * but where they are all of one, and no mistake is forgiven in a word's first letter, unless it was
 * changed about with the second.
 */
export function nameIn<T extends Named>(
  text: string,
  list: readonly T[],
  { exact = false, whole: wholeOnly = false }: Spelling = {},
): NameFound<T> | null {
  const wanted = plainLetters(text.trim());
  if (wanted.length < 2) return null;
  const words = wanted.split(/[\s-]+/);
  const found: { one: Named; rank: number }[] = [];
  for (const { one, whole, parts } of prepared(list)) {
    const candidates = wholeOnly
      ? [whole, whole.split(' ').slice(0, words.length).join(' ')]
      : [whole, ...parts];
    let rank = Infinity;
    candidates.forEach((candidate, k) => {
      const wrong = mistakesIn(words, candidate, exact, candidate === whole);
      if (wrong !== null) rank = Math.min(rank, wrong * 10 + Math.min(k, 3));
    });
    if (rank < Infinity) found.push({ one, rank });
  }
  if (found.length === 0) return null;
  found.sort((a, b) => a.rank - b.rank);
  const best = found[0]!;
  // Others that fit as well, up to the place in the name; worse spelt ones are not meant.
  const others = found
    .slice(1)
    .filter((one) => Math.floor(one.rank / 10) === Math.floor(best.rank / 10));
  return { best: best.one as T, others: others.map((one) => one.one as T) };
}

/** Mistakes of words against a name or a part of one, word by word; null where it is not meant. */
function mistakesIn(
  words: readonly string[],
  candidate: string,
  exact: boolean,
  isWhole: boolean,
): number | null {
  const parts = candidate.split(/[\s-]+/);
  if (parts.length !== words.length) return null;
  if (!isWhole && words.every(isCommon)) return null;
  let wrong = 0;
  for (const [k, word] of words.entries()) {
    const part = parts[k]!;
    if (word === part) continue;
    if (exact || isCommon(word) || !beginsAlike(word, part)) return null;
    const most = forgiven(Math.max(word.length, part.length));
    const here = mistakes(word, part, most);
    if (here > most) return null;
    wrong += here;
  }
  return wrong;
}

const beginsAlike = (a: string, b: string): boolean =>
  a[0] === b[0] || (a[0] === b[1] && a[1] === b[0]);
