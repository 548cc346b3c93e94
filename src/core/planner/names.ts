import { forgiven, mistakes, plainLetters } from './spelling.ts';

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

/**
 * Finds a name in a list, whole or one of its words, some mistakes forgiven: the fewest mistakes
 * first, then whole names, then first words, then the order of the list.
 * @param exact forgives none
 * @param whole takes the whole name only, or all of its first words
 */
export function nameIn<T extends Named>(
  text: string,
  list: readonly T[],
  { exact = false, whole: wholeOnly = false }: { exact?: boolean; whole?: boolean } = {},
): NameFound<T> | null {
  const wanted = plainLetters(text.trim());
  if (wanted.length < 2) return null;
  const found: { one: Named; rank: number }[] = [];
  for (const { one, whole, parts } of prepared(list)) {
    const candidates = wholeOnly
      ? [whole, whole.split(' ').slice(0, wanted.split(' ').length).join(' ')]
      : [whole, ...parts];
    let rank = Infinity;
    candidates.forEach((candidate, k) => {
      const most = exact ? 0 : forgiven(Math.max(wanted.length, candidate.length));
      const wrong = mistakes(wanted, candidate, most);
      if (wrong <= most) rank = Math.min(rank, wrong * 10 + Math.min(k, 3));
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
