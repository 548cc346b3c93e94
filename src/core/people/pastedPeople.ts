import { addressKey, isMailAddress } from '../mailAddress.ts';
import { cleanName } from '../sentence/nameList.ts';
import { withoutEnd } from '../withoutEnd.ts';

/** People: that are read from one text. */
export const MOST_PASTED = 2000;
/** Characters: of a text that is read. */
export const LONGEST_PASTED = 200_000;
/** Characters: of a line that are looked at. */
const LONGEST_LINE = 2000;
/** Characters: of a name. */
const LONGEST_NAME = 120;

/** Somebody whom a text names. */
export interface PastedPerson {
  /** Where they stand, from 1. */
  line: number;
  name: string;
  /** Whether the text gives no name, and this one is made from the address. */
  isNameGuessed: boolean;
  email: string;
  /** What stands in brackets beside them, such as a city; null where nothing does. */
  remark: string | null;
}

/** What looks like somebody and is not read as such. */
export interface PastedDoubt {
  line: number;
  /** What is doubtful, and where in its line, half-open. */
  text: string;
  from: number;
  to: number;
  /** A sentence. */
  why: string;
  /** Whom it may mean, to be taken or left out. */
  mend: Pick<PastedPerson, 'name' | 'isNameGuessed' | 'email' | 'remark'> | null;
}

export interface Pasted {
  people: PastedPerson[];
  doubts: PastedDoubt[];
  /** Lines that say something and name nobody, from 1. */
  nobody: number[];
  /** How many lines there are. */
  lines: number;
}

/** Something with an at sign in it, with what may belong to it. */
interface Found {
  text: string;
  from: number;
  to: number;
}

const AT = /@|\(at\)|\[at\]/gi;
/** What ends an address in a list; commas and gaps within it are judged afterwards. */
const ENDS = '<>"();:[]\\/|@';
const isEnd = (character: string): boolean => ENDS.includes(character) || /\s/.test(character);
const LONGEST_LOCAL = 64;
const LONGEST_DOMAIN = 255;

/**
 * Reads people from whatever their addresses stand in: a list, the head of a letter, a table. A name is what
 * stands before its address, or in brackets behind it; where there is none it is made from the address. An
 * address that stands twice is read once.
 */
export function readPasted(text: string): Pasted {
  const lines = text.slice(0, LONGEST_PASTED).split(/\r\n|\n|\r/);
  const read: Pasted = { people: [], doubts: [], nobody: [], lines: lines.length };
  const seen = new Map<string, number>();
  lines.forEach((whole, k) => {
    const line = whole.slice(0, LONGEST_LINE);
    const found = addressesIn(line);
    if (found.length === 0) {
      if (/[\p{L}\p{N}]/u.test(line)) read.nobody.push(k + 1);
      return;
    }
    found.forEach(({ text: written, from, to }, n) => {
      const before = line.slice(n === 0 ? 0 : found[n - 1]!.to, from);
      const behind = line.slice(to, found[n + 1]?.from ?? line.length);
      const words = nameAround(before, behind, n === found.length - 1);
      const at = { line: k + 1, text: written, from, to };
      const { email, why } = judged(written);
      const person = email === null ? null : named(email, words);
      const first = person ? seen.get(addressKey(person.email)) : undefined;
      if (why !== null) read.doubts.push({ ...at, why, mend: first ? null : person });
      else if (first !== undefined)
        read.doubts.push({
          ...at,
          why: `The address stands in line ${first} already.`,
          mend: null,
        });
      else if (read.people.length === MOST_PASTED)
        read.doubts.push({
          ...at,
          why: `At most ${MOST_PASTED} people are read at once.`,
          mend: null,
        });
      else {
        seen.set(addressKey(person!.email), k + 1);
        read.people.push({ line: k + 1, ...person! });
      }
    });
  });
  return read;
}

/** Everything in a line that stands around an at sign. */
function addressesIn(line: string): Found[] {
  const found: Found[] = [];
  for (const { index: at, 0: sign } of line.matchAll(AT)) {
    const floor = found.at(-1)?.to ?? 0;
    if (at < floor) continue;
    let from = at;
    while (from > floor && at - from < LONGEST_LOCAL) {
      const before = line[from - 1]!;
      if (isEnd(before) || before === ',') break;
      from--;
    }
    const begin = at + sign.length;
    let to = begin;
    // "jon@ harbour.example": the gap is a slip.
    if (line[to] === ' ' && to + 1 < line.length && !isEnd(line[to + 1]!)) to++;
    while (to < line.length && to - begin < LONGEST_DOMAIN && !isEnd(line[to]!)) to++;
    let text = line.slice(from, to);
    // Of "a@x.example,b@y.example" and "a@x.example,Engineer" the first part is an address by itself.
    const comma = text.indexOf(',', at - from);
    if (comma > 0 && (line[to] === '@' || isMailAddress(text.slice(0, comma))))
      text = text.slice(0, comma);
    if (text.includes('@ ') && !isMailAddress(text.replace('@ ', '@')))
      text = text.slice(0, text.indexOf('@ ') + 1);
    text = withoutEnd(text, `,.'’!?`);
    const lead = text.length - text.replace(/^['‘’.]+/, '').length;
    found.push({ text: text.slice(lead), from: from + lead, to: from + text.length });
  }
  return found;
}

/** Whether what was written is an address, or which it may mean and why not that. */
function judged(written: string): { email: string | null; why: string | null } {
  if (isMailAddress(written)) return { email: written.normalize('NFC'), why: null };
  const slips: [RegExp, string, string][] = [
    [/[([]at[)\]] ?/i, '@', 'The address is written without its at sign:'],
    [/@ /, '@', 'A gap stands in the address:'],
    [/,/g, '.', 'A comma stands in the address:'],
    [/\.{2,}/g, '.', 'Two dots stand in the address:'],
  ];
  for (const [slip, right, why] of slips) {
    const mended = written.replace(slip, right);
    if (mended !== written && isMailAddress(mended)) return { email: mended.normalize('NFC'), why };
  }
  return {
    email: null,
    why: /@[^@.]+$/.test(written)
      ? 'The address has no ending such as .example.'
      : 'This is no mail address.',
  };
}

/** The name before an address or in brackets behind it, and what else stands in brackets. */
function nameAround(before: string, behind: string, isLast: boolean) {
  const lead = before.replace(/^[\s>)\]}'"]*[,;]/, ' ');
  const brackets = /[([]([^()[\]]*)[)\]][\s:,;–<-]*$/.exec(lead)?.[1]?.trim() ?? '';
  const open = withoutEnd(
    withoutEnd(lead, SEPARATORS).replace(/mailto:$/i, ''),
    SEPARATORS,
  ).replace(/^\s*(to|cc|bcc|from|an|von|til|fra|à|de):/i, '');
  const name = fullName(open);
  if (name) return { name, remark: brackets || null };
  const after = /^[>\s]*[([]([^()[\]]*)[)\]]/.exec(behind)?.[1]?.trim() ?? '';
  if (after) return { name: fullName(after), remark: null };
  // "cal@harbour.example Cal Reid": nobody else can be meant.
  const rest =
    isLast && /^[\s>,;:–-]+(?=\p{L})/u.test(behind)
      ? fullName(upTo(behind.replace(/^[\s>,;:–-]+/, ''), ',;'))
      : '';
  return { name: rest, remark: null };
}

/** A name as one says it: "Duthie, Isobel" is Isobel Duthie; empty where there is none. */
function fullName(text: string): string {
  const tabbed = text
    .split('\t')
    .filter((cell) => /\p{L}/u.test(cell))
    .join(' ');
  const parts = tabbed
    .replaceAll('"', ' ')
    .split(',')
    .map((part) => part.trim())
    .filter(Boolean);
  const said = parts.length === 2 ? `${parts[1]} ${parts[0]}` : parts.join(' ');
  const clean = cleanName(said.replace(/\s+/g, ' ').trim());
  const name = withoutEnd(clean, SEPARATORS).slice(0, LONGEST_NAME).trim();
  return /\p{L}/u.test(name) ? name : '';
}

function named(email: string, { name, remark }: { name: string; remark: string | null }) {
  return name
    ? { name, isNameGuessed: false, email, remark }
    : { name: nameOfAddress(email), isNameGuessed: true, email, remark };
}

/** How somebody may be called, by their address: `cal.reid@…` is Cal Reid. */
export function nameOfAddress(email: string): string {
  const local = upTo(email.slice(0, email.lastIndexOf('@')), '+');
  const words = local.split(/[._\-\d]+/).filter(Boolean);
  const name = words.map((word) => word.slice(0, 1).toUpperCase() + word.slice(1)).join(' ');
  return name || local;
}

/** What may stand between a name and its address. */
const SEPARATORS = ' \t\u00a0<([{:,;/|=–—-"';

/** A text up to the first of some characters. */
function upTo(text: string, characters: string): string {
  for (let k = 0; k < text.length; k++) if (characters.includes(text[k]!)) return text.slice(0, k);
  return text;
}
