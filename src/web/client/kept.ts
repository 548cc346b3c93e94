/**
 * What is being typed, kept for as long as this tab lives: it survives closing a panel, following a
 * link, going back and reloading, and is forgotten once it is saved or thrown away.
 */
const PREFIX = 'marmot.kept.';
/** So many unfinished forms are kept; of more, the oldest go. */
const MOST = 20;

interface Kept<Content> {
  /** Epoch milliseconds of this browser. */
  at: number;
  content: Content;
}

const keysOf = () => Object.keys(sessionStorage).filter((key) => key.startsWith(PREFIX));

const read = (key: string): Kept<unknown> | null => {
  try {
    return JSON.parse(sessionStorage.getItem(key) ?? 'null') as Kept<unknown> | null;
  } catch {
    return null;
  }
};

export function keep(name: string, content: unknown): void {
  try {
    sessionStorage.setItem(PREFIX + name, JSON.stringify({ at: Date.now(), content }));
    const keys = keysOf();
    if (keys.length <= MOST) return;
    keys.sort((a, b) => (read(a)?.at ?? 0) - (read(b)?.at ?? 0));
    for (const key of keys.slice(0, keys.length - MOST)) sessionStorage.removeItem(key);
  } catch {
    // A browser that keeps nothing, or has no room left, keeps no drafts either.
  }
}

export const kept = <Content>(name: string): Content | null =>
  (read(PREFIX + name)?.content as Content | undefined) ?? null;

export const forget = (name: string): void => sessionStorage.removeItem(PREFIX + name);

/** Everything of one person's is forgotten, as when another signs in. */
export const forgetAll = (): void => {
  for (const key of keysOf()) sessionStorage.removeItem(key);
};

/** What is kept under names that begin alike, the latest first. */
export function keptUnder<Content>(begin: string): { name: string; content: Content }[] {
  return keysOf()
    .filter((key) => key.startsWith(PREFIX + begin))
    .map((key) => ({ name: key.slice(PREFIX.length), found: read(key) }))
    .sort((a, b) => (b.found?.at ?? 0) - (a.found?.at ?? 0))
    .flatMap(({ name, found }) => (found ? [{ name, content: found.content as Content }] : []));
}
