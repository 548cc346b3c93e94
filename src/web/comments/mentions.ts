import type { CommentsResponse } from '../../contract/comments.ts';

type Person = CommentsResponse['people'][number];

/** So many names are offered. */
const MOST_OFFERED = 5;

/** Who is spoken to in a text: whose whole name stands behind an `@`. */
export const mentionsIn = (words: string, people: readonly Person[]): Person[] =>
  people.filter(({ name }) => words.includes(`@${name}`));

/** A text in parts, those that speak to somebody apart. */
export function partsOf(
  words: string,
  names: readonly string[],
): { text: string; isMention: boolean }[] {
  // A longer name first: one may begin as another does.
  const known = [...names].sort((a, b) => b.length - a.length);
  const parts: { text: string; isMention: boolean }[] = [];
  let plain = '';
  for (let at = 0; at < words.length;) {
    const name = words[at] === '@' && known.find((one) => words.startsWith(one, at + 1));
    if (!name) {
      plain += words[at]!;
      at++;
      continue;
    }
    if (plain) parts.push({ text: plain, isMention: false });
    parts.push({ text: `@${name}`, isMention: true });
    plain = '';
    at += name.length + 1;
  }
  if (plain) parts.push({ text: plain, isMention: false });
  return parts;
}

/** A name that is being typed: where its `@` stands, and who could be meant. */
export interface Typing {
  from: number;
  to: number;
  offered: Person[];
}

/** What is typed behind an `@` before the caret; null where no name is, or nobody could be meant. */
export function typingAt(words: string, caret: number, people: readonly Person[]): Typing | null {
  const found = /(?:^|\s)@([^@\n]{0,40})$/u.exec(words.slice(0, caret));
  if (!found) return null;
  const typed = found[1]!.toLowerCase();
  const offered = people
    .filter(({ name }) => name.toLowerCase() !== typed.trimEnd())
    .filter(({ name }) =>
      [name, ...name.split(' ').slice(1)].some((part) => part.toLowerCase().startsWith(typed)),
    )
    .slice(0, MOST_OFFERED);
  return offered.length > 0 ? { from: caret - found[1]!.length - 1, to: caret, offered } : null;
}
