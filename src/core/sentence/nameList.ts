import { addressKey, isMailAddress } from '../mailAddress.ts';
import { plainLetters } from '../plainLetters.ts';
import { nameIn, type Named } from './names.ts';

/** Whom a list can name. */
export interface ListNames {
  people: readonly Named[];
  teams: readonly (Named & { memberIds: readonly number[] })[];
  resources: readonly Named[];
  /** Whose an address is, by `addressKey`. */
  owners: ReadonlyMap<string, Named>;
  /** Of one's own organization, in lower case: an address there that nobody has is a slip. */
  ownDomain: string;
}

/** Somebody or something that is named. */
export type Meant =
  | { kind: 'person' | 'resource'; id: number; name: string }
  | { kind: 'team'; id: number; name: string; memberIds: readonly number[] };

/** What one entry of a list means. */
export type Listed = {
  /** As it stands in the list. */
  text: string;
  /** Whether it says that who is named need not come. */
  isOptional: boolean;
} & (
  | { is: 'meant'; meant: Meant }
  | { is: 'address'; email: string }
  /** Spelt another way, or the name of several: one of these, the likeliest first. */
  | { is: 'doubtful'; choices: readonly Meant[] }
  /** An address of one's own organization that nobody has. */
  | { is: 'nobodys'; email: string }
  | { is: 'unknown' }
);

/** A list may have so many entries; a longer one is read by nobody, and said to be so. */
export const MOST_LISTED = 500;
const MOST_CHOICES = 6;
const LONGEST_ENTRY = 200;
/** Characters of a whole list. */
const LONGEST_LIST = MOST_LISTED * LONGEST_ENTRY;

/** One entry of a list, cleaned: a name, an address, or both. */
interface Entry {
  text: string;
  name: string;
  email: string | null;
  isOptional: boolean;
}

const TITLE =
  /^(dr|prof|professor|mr|mrs|ms|mx|miss|sir|dame|herr|frau|fru|mme|m|pan|pani|senhor|senhora|ing|dipl)\.? +(?=\S)/i;
const DEGREE = /^(ph\.?d|m\.?d|m\.?sc|b\.?sc|m\.?a|b\.?a|jr|sr|esq|obe|frs)\.?,?$/i;
const OPTIONAL = /[([](optional|opt|maybe|cc)[)\]]|\b(optional|if free)$/i;

/**
 * The entries of a list as people paste them: one a line, or parted by commas, semicolons or tabs, with
 * bullets, numbers, titles and remarks in brackets. A comma within a line of names is between two of them,
 * unless the line is one name with its last part first.
 * @param isName whether a text is somebody's whole name
 */
function entriesOf(text: string, isName: (text: string) => boolean): Entry[] {
  const lines = text.split(/[\n\r;]+/).flatMap((line) => {
    const plain = line.trim();
    if (!plain) return [];
    const swapped = swappedName(plain);
    return swapped !== null && isName(swapped) ? [swapped] : apart(plain);
  });
  return lines
    .slice(0, MOST_LISTED + 1)
    .map(entryOf)
    .filter((entry) => entry.name !== '' || entry.email !== null);
}

/** "Okafor, Tomas" as "Tomas Okafor"; null where a line is no such. */
function swappedName(line: string): string | null {
  const parts = line.replace(/^"|"$/g, '').split(',');
  if (parts.length !== 2) return null;
  const [last, first] = parts.map((part) => part.trim());
  return last && first ? `${first} ${last}` : null;
}

/** Parts between commas that do not stand in quotes, brackets or angles. */
function apart(line: string): string[] {
  const parts: string[] = [];
  let begin = 0;
  let closes: string | null = null;
  const last: Record<string, number> = {};
  for (const end of ['"', '>', ')']) last[end] = line.lastIndexOf(end);
  for (let k = 0; k < line.length; k++) {
    const character = line[k]!;
    if (closes !== null) {
      if (character === closes) closes = null;
    } else if (character === '"' || character === '<' || character === '(') {
      const end = { '"': '"', '<': '>', '(': ')' }[character]!;
      // What nothing closes is a character as any other.
      if (last[end]! > k) closes = end;
    } else if (character === ',') {
      parts.push(line.slice(begin, k));
      begin = k + 1;
    }
  }
  return [...parts, line.slice(begin)];
}

function entryOf(part: string): Entry {
  const text = part.trim().slice(0, LONGEST_ENTRY);
  const cells = text.split('\t').map((cell) => cell.trim());
  const email = cells.map(addressIn).find((found) => found !== null) ?? null;
  const [cell = ''] = cells.filter((one) => addressIn(one) !== one);
  let name = cleanName(cell);
  if (email !== null && name === email) name = '';
  return { text, name, email, isOptional: OPTIONAL.test(text) };
}

/** A name as somebody wrote it, without bullets, numbers, titles, degrees and remarks. */
export function cleanName(text: string): string {
  let name = text
    .replace(/<[^<>]*>/g, ' ')
    .replace(/[([][^()[\]]*[)\]]/g, ' ')
    .replace(/^[\s\-*•·–>"']+/, '')
    .replace(/^\d{1,3}[.)]\s/, '')
    .trim();
  // "Tomas Okafor - Bergen": a remark.
  name = name.split(/ [-–—|] |: /)[0]!.trim();
  while (TITLE.test(name)) name = name.replace(TITLE, '');
  const words = stripped(name, '"\'').split(/\s+/);
  while (words.length > 0 && DEGREE.test(words.at(-1)!)) words.pop();
  return stripped(words.join(' '), ',').trim();
}

/** A text without some characters at its ends. */
function stripped(text: string, characters: string): string {
  let [start, end] = [0, text.length];
  while (start < end && characters.includes(text[start]!)) start++;
  while (end > start && characters.includes(text[end - 1]!)) end--;
  return text.slice(start, end);
}

/** The address in a cell, in angle brackets, behind "mailto:" or by itself; null where there is none. */
function addressIn(cell: string): string | null {
  const angled = /<([^<>]*)>/.exec(cell)?.[1] ?? '';
  const bare = cell.split(/\s+/).find((word) => word.includes('@')) ?? '';
  for (const found of [angled, bare]) {
    const address = stripped(found.trim().replace(/^mailto:/i, ''), '()[]"\',.');
    if (isMailAddress(address)) return address;
  }
  return null;
}

/** Whether a list has more entries than are read at once. */
export const isTooLong = (text: string): boolean =>
  text.length > LONGEST_LIST || entriesOf(text, () => false).length > MOST_LISTED;

/** The addresses that a list names, whose owners are to be known before it is read. */
export const addressesIn = (text: string): string[] => [
  ...new Set(entriesOf(text, () => false).flatMap(({ email }) => email ?? [])),
];

/** What every entry of a list is looked up by, made once. */
export function listReader(names: ListNames) {
  const { people, teams, resources, owners, ownDomain } = names;
  const byName = new Map<string, Meant[]>();
  const all: Meant[] = [
    ...people.map(({ id, name }): Meant => ({ kind: 'person', id, name })),
    ...teams.map(({ id, name, memberIds }): Meant => ({ kind: 'team', id, name, memberIds })),
    ...resources.map(({ id, name }): Meant => ({ kind: 'resource', id, name })),
  ];
  for (const one of all) {
    const key = keyOf(one.name);
    byName.set(key, [...(byName.get(key) ?? []), one]);
  }
  // As a list of its own, so that its names are prepared once; numbered, as ids are of three kinds.
  const numbered = all.map(({ name }, id) => ({ id, name }));
  const meantBy = (found: readonly Named[]) => found.map(({ id }) => all[id]!);

  const read = ({ text, name, email, isOptional }: Entry): Listed => {
    const entry = { text, isOptional };
    if (email !== null) {
      const person = owners.get(addressKey(email));
      if (person)
        return {
          ...entry,
          is: 'meant',
          meant: { kind: 'person', id: person.id, name: person.name },
        };
      const isOwn = addressKey(email).endsWith(`@${ownDomain}`);
      return isOwn ? { ...entry, is: 'nobodys', email } : { ...entry, is: 'address', email };
    }
    const whole = byName.get(keyOf(name)) ?? byName.get(keyOf(reversed(name)));
    if (whole) return meantOf(entry, whole);
    const exact = nameIn(name, numbered, { exact: true });
    if (exact) return meantOf(entry, meantBy([exact.best, ...exact.others]));
    const initials = all.filter((one) => fitsInitials(name, one.name));
    if (initials.length > 0) return meantOf(entry, initials);
    const near = nameIn(name, numbered);
    if (near)
      return {
        ...entry,
        is: 'doubtful',
        choices: meantBy([near.best, ...near.others]).slice(0, MOST_CHOICES),
      };
    return { ...entry, is: 'unknown' };
  };
  return {
    /** What a list names, entry by entry, each once; read as it is asked for, so that others get their turn. */
    *read(text: string): Generator<Listed> {
      const seen = new Set<string>();
      for (const entry of entriesOf(text, (name) => byName.has(keyOf(name)))) {
        const listed = read(entry);
        const key =
          listed.is === 'meant'
            ? `${listed.meant.kind} ${listed.meant.id}`
            : 'email' in listed
              ? addressKey(listed.email)
              : keyOf(listed.text);
        if (seen.has(key)) continue;
        seen.add(key);
        yield listed;
      }
    },
  };
}

const meantOf = (entry: Pick<Listed, 'text' | 'isOptional'>, found: readonly Meant[]): Listed =>
  found.length === 1
    ? { ...entry, is: 'meant', meant: found[0]! }
    : { ...entry, is: 'doubtful', choices: found.slice(0, MOST_CHOICES) };

const keyOf = (name: string): string => plainLetters(name.trim().replace(/\s+/g, ' '));

/** "Okafor Tomas" as "Tomas Okafor". */
const reversed = (name: string): string => {
  const words = name.split(' ');
  return [...words.slice(1), words[0]!].join(' ');
};

/** "T. Okafor" and "Tomas O" for Tomas Okafor: as many words, letters for some of them, not for all. */
function fitsInitials(typed: string, name: string): boolean {
  const words = keyOf(typed).replace(/\./g, '').split(' ');
  const parts = keyOf(name).split(' ');
  if (words.length < 2 || words.length !== parts.length) return false;
  return (
    words.some((word) => word.length > 1) &&
    words.every((word, k) => (word.length === 1 ? parts[k]!.startsWith(word) : parts[k] === word))
  );
}
