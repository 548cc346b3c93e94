/** A pattern for ILIKE that finds some words anywhere; `%`, `_` and `\` mean themselves. */
export const holding = (words: string): string => `%${words.replace(/[\\%_]/g, '\\$&')}%`;
