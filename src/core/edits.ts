import { same } from './same.ts';

/** One value that a change touched; undefined (null in the database) where there was none. */
export interface Edit {
  /** Where it stands, such as `title`, `override/2027-03-10T09:00/place` or `rules/open`. */
  path: string;
  from: unknown;
  to: unknown;
}

/** A thing as single values by their paths. */
export type Values = ReadonlyMap<string, unknown>;

/** What a change touched, and nothing else. */
export const editsOf = (before: Values, after: Values): Edit[] =>
  [...new Set([...before.keys(), ...after.keys()])]
    .filter((path) => !same(before.get(path) ?? null, after.get(path) ?? null))
    .map((path) => ({ path, from: before.get(path) ?? null, to: after.get(path) ?? null }));

/**
 * Takes edits back: each value that still is what the change made of it becomes what it was, and what has been
 * changed since is left alone.
 * @returns the values, and the edits that were left alone
 */
export function takeEditsBack(
  present: Values,
  edits: readonly Edit[],
): { values: Map<string, unknown>; left: Edit[] } {
  const values = new Map(present);
  const left: Edit[] = [];
  for (const edit of edits) {
    if (same(values.get(edit.path) ?? null, edit.to ?? null)) values.set(edit.path, edit.from);
    else left.push(edit);
  }
  return { values, left };
}
