/** A pattern for ILIKE that finds some words anywhere; `%`, `_` and `\` mean themselves. */
export const holding = (words: string): string => `%${words.replace(/[\\%_]/g, '\\$&')}%`;

/** How much of a word's triples of letters must be there for it to be meant, of 1 (pg_trgm). */
const ALIKE = 0.4;

/** The condition that a text holds some words, mistakes and accents forgiven; both are expressions. */
export const holdsAlike = (words: string, text: string): string =>
  `word_similarity(unaccent(${words}), unaccent(${text})) >= ${ALIKE}`;

/** Below so many letters nothing is forgiven. */
export const FORGIVEN_FROM = 3;
