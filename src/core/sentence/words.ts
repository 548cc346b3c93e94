import type { Named } from './names.ts';

/** One thing understood of a sentence; `words` are those of the sentence that say it. */
export type Chip = { words: string } & (
  | { kind: 'title'; text: string }
  | { kind: 'person'; id: number; name: string; optional: boolean; others: readonly Named[] }
  | { kind: 'team'; id: number; name: string; memberIds: readonly number[]; optional: boolean }
  | { kind: 'address'; email: string; optional: boolean }
  | { kind: 'resource'; id: number; name: string; others: readonly Named[] }
  | { kind: 'room'; siteId: number | null; name: string }
  | { kind: 'day'; date: string }
  | { kind: 'days'; from: string; days: number }
  | { kind: 'time'; minute: number }
  | { kind: 'between'; from: number; to: number }
  | { kind: 'length'; minutes: number }
  | { kind: 'weekly'; everyWeeks: number; count: number | null }
  | { kind: 'unread' }
);

/** A word of a sentence. */
export interface Word {
  text: string;
  /** Taken by what was understood. */
  taken: boolean;
}

/** Notes what was understood of a run of words. */
export type Take = (at: number, count: number, chip: Chip) => void;

/** The longest run of free words from `at` on that `read` makes something of. */
export function longest<T>(
  words: readonly Word[],
  at: number,
  most: number,
  read: (text: string) => T | null,
): { value: T; count: number; text: string } | null {
  for (let count = Math.min(most, words.length - at); count >= 1; count--) {
    const run = words.slice(at, at + count);
    if (run.some((word) => word.taken)) continue;
    const text = run.map((word) => word.text).join(' ');
    const value = read(text);
    if (value !== null) return { value, count, text };
  }
  return null;
}

/** Uses every run of free words that `read` makes something of, the longest first. */
export function eachRun<T>(
  words: readonly Word[],
  most: number,
  read: (text: string) => T | null,
  use: (at: number, count: number, value: T, text: string) => void,
): void {
  for (let at = 0; at < words.length; at++) {
    const run = longest(words, at, most, read);
    if (run) use(at, run.count, run.value, run.text);
  }
}
