import type { DayOrder } from '../time/dayOrder.ts';
import type { Named } from './names.ts';

/** One thing understood of a sentence; `words` are those of the sentence that say it. */
export type Chip = { words: string } & (
  | { kind: 'title'; text: string }
  | { kind: 'person'; id: number; name: string; optional: boolean; others: readonly Named[] }
  | { kind: 'team'; id: number; name: string; memberIds: readonly number[]; optional: boolean }
  | { kind: 'address'; email: string; optional: boolean }
  /** Somebody of a team who is not meant. */
  | { kind: 'except'; id: number; name: string; others: readonly Named[] }
  | { kind: 'resource'; id: number; name: string; others: readonly Named[] }
  | {
      kind: 'room';
      siteId: number | null;
      name: string;
      features: readonly string[];
      seats: number | null;
    }
  /** `other` is what it could mean as well. */
  | { kind: 'day'; date: string; other: string | null }
  /** Days on which people work, from a date on. */
  | { kind: 'days'; from: string; days: number }
  /** Minutes after midnight on the clock of a zone; of the reader's own where it is null. */
  | { kind: 'time'; minute: number; other: number | null; zone: string | null; place: string }
  | { kind: 'between'; from: number; to: number }
  | { kind: 'length'; minutes: number }
  | { kind: 'weekly'; everyWeeks: number; count: number | null }
  /** How often otherwise, as a rule of RFC 5545 that says no end. */
  | { kind: 'repeats'; rule: string; name: string; count: number | null }
  /** `why` says what is wrong with words that look like something. */
  | { kind: 'unread'; why?: string }
);

/** A word of a sentence. */
export interface Word {
  text: string;
  /** Taken by what was understood. */
  taken: boolean;
  /** As what, last. */
  as?: Chip['kind'];
}

/** Whose sentence it is, and when it is said. */
export interface Reader {
  /** `YYYY-MM-DD` on the reader's clock. */
  today: string;
  /** Minutes after midnight at present on the reader's clock. */
  minute: number;
  /** Which of two bare numbers is the day. */
  order: DayOrder;
}

/** Where a chip stands in a sentence. */
export interface Placed {
  at: number;
  chip: Chip;
}

/** A sentence as it is read, word by word. */
export interface Reading {
  words: Word[];
  reader: Reader;
  /** Notes what was understood of a run of words. */
  take: (at: number, count: number, chip: Chip) => void;
}

/** Words that only hold a sentence together. */
export const JOINERS =
  /^(and|with|w\/|plus|&|,|;|:|-|in|at|@|on|the|for|a|an|room|rooms|from|about|regarding|re|me|myself|us|please|or|by)$/i;

/**
 * A sentence in its words: commas and colons stand by themselves, and so do the ends of what goes from one
 * to another: "2pm-3pm", "14:00-15:30", "mon-wed". A date such as 2026-11-26 and names stay whole.
 */
export const wordsOf = (sentence: string): Word[] =>
  sentence
    .replace(/[–—]/g, '-')
    .replace(/([,;])(?!\d)/g, ' $1 ')
    .replace(/:(?=\s|$)/g, ' : ')
    .replace(/(?<=\p{L}|\d)[!?]+(?=\s|$)/gu, ' ')
    .split(/\s+/)
    .filter(Boolean)
    .flatMap(rangeApart)
    .map((text): Word => ({ text, taken: false }));

const rangeApart = (word: string): string[] => {
  const ends =
    /^(\d[\d:.h]*[ap]?m?)-(\d[\d:.h]*[ap]?m?)$/i.exec(word) ??
    /^((?:mon|tue|wed|thu|fri|sat|sun)[a-z]*)-((?:mon|tue|wed|thu|fri|sat|sun)[a-z]*)$/i.exec(word);
  return ends ? [ends[1]!, '-', ends[2]!] : [word];
};

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

/** Whether nothing stands at a place of a sentence that what is before it could belong to. */
export const isEnd = (word: Word | undefined): boolean =>
  word === undefined || word.taken || JOINERS.test(word.text);
