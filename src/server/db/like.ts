import { ALIKE_FROM } from './limits.ts';

/** A pattern for ILIKE that finds some words anywhere; `%`, `_` and `\` mean themselves. */
export const holding = (words: string): string => `%${words.replace(/[\\%_]/g, '\\$&')}%`;

/** The condition that a text holds some words, mistakes and accents forgiven; both are expressions. */
export const holdsAlike = (words: string, text: string): string =>
  `word_similarity(unaccent(${words}), unaccent(${text})) >= ${ALIKE_FROM}`;
