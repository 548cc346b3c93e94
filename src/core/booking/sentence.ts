import { numberOf } from '../time/numberWords.ts';
import { nameIn, type Named } from '../sentence/names.ts';
import { readingOf, type Reader } from '../sentence/sentence.ts';
import { readWhen } from '../sentence/when.ts';
import { longest, wordsOf, type Chip, type Word } from '../sentence/words.ts';

/** What a sentence wants of a place. */
export interface PlaceSentence {
  kind: 'room' | 'lab' | 'desk' | 'equipment' | 'vehicle' | 'parking';
  /** How many of them; each is booked by itself. */
  count: number;
  /** `YYYY-MM-DD`; null where no day is named. */
  date: string | null;
  /** Minutes after midnight; null where no time is named. */
  from: number | null;
  to: number | null;
  /** How long; null where it is not said. */
  minutes: number | null;
  seats: number;
  siteId: number | null;
  /** People it is to be near. */
  near: readonly number[];
  /** Everything else: words that the place is to hold. */
  text: string;
  /** What looks like a time or a day and cannot be taken, with why. */
  unread: readonly string[];
}

/** Whom and what such a sentence can name. */
export interface PlaceNames {
  sites: readonly { id: number; name: string; city: string }[];
  people: readonly Named[];
  /** Whoever says it. */
  me: number;
}

/** By which words a kind is meant, at the beginning of a sentence. */
const KINDS: Record<string, PlaceSentence['kind']> = {
  room: 'room',
  rooms: 'room',
  lab: 'lab',
  labs: 'lab',
  desk: 'desk',
  desks: 'desk',
  equipment: 'equipment',
  kit: 'equipment',
  vehicle: 'vehicle',
  vehicles: 'vehicle',
  van: 'vehicle',
  vans: 'vehicle',
  car: 'vehicle',
  cars: 'vehicle',
  parking: 'parking',
};

const JOINERS =
  /^(and|with|w\/|plus|&|,|;|:|-|in|at|@|on|the|for|a|an|any|please|free|available|all|day|that|is|or)$/i;
/** How such a sentence begins: what is to be done, how many, what it is called besides. */
const VERB = /^(find|book|get|reserve|need|want|i|we|me|us|show|look|for|is|there)$/i;
const ARTICLE = /^(an?|any|some|the|one|another)$/i;
const QUALITY = /^(free|available|meeting|conference|quiet)$/i;
const NEAR = /^(near|beside|by|(close|next) to|around)$/i;
const MOST_BEFORE = 6;
const MOST_COUNT = 9;

/** Where the kind stands, and how many of it are wanted; null where a sentence does not begin with one. */
function begins(
  words: readonly Word[],
): { at: number; kind: PlaceSentence['kind']; count: number } | null {
  let count = 1;
  for (let at = 0; at < Math.min(words.length, MOST_BEFORE); at++) {
    const text = words[at]!.text.toLowerCase();
    const kind = KINDS[text];
    if (kind) return { at, kind, count };
    const number = numberOf(text);
    if (number >= 2 && number <= MOST_COUNT && count === 1) count = number;
    else if (!VERB.test(text) && !ARTICLE.test(text) && !QUALITY.test(text)) return null;
  }
  return null;
}

/**
 * Reads a sentence that looks for a place: "desk with monitor and window on Thursday", "find a room for 6 in
 * Bergen tomorrow 11:00 to 12:30", "any 90 minutes on Friday near Ines", "two rooms at 2pm".
 * @returns null where it looks for none, or says nothing more
 */
export function readPlaceSentence(
  sentence: string,
  names: PlaceNames,
  reader: Reader,
): PlaceSentence | null {
  const words = wordsOf(sentence);
  const found: { at: number; chip: Chip }[] = [];
  const start = begins(words);
  const isAny = start === null && /^any$/i.test(words[0]?.text ?? '');
  if ((!start && !isAny) || words.length < 2) return null;
  for (const word of words.slice(0, (start?.at ?? 0) + 1)) word.taken = true;
  const seats = readSeats(words);
  readWhen(readingOf(words, reader, found));
  const near = readNear(words, names);
  const siteId = readSite(words, names.sites);
  const text = words
    .filter((word) => !word.taken && !JOINERS.test(word.text))
    .map((word) => word.text)
    .join(' ');
  const chips = found.sort((a, b) => a.at - b.at).map(({ chip }) => chip);
  const when = whenOf(chips);
  const read = { kind: start?.kind ?? 'room', count: start?.count ?? 1, seats, siteId, near, text };
  const saysWhen = when.date !== null || when.from !== null || when.minutes !== null;
  const says = saysWhen || seats > 1 || siteId !== null || near.length > 0;
  // "any 90 minutes near Ines" is a place; "any news on Thursday" is none.
  if (isAny && (when.minutes === null || text !== '')) return null;
  const asks = start !== null && start.at > 0 && VERB.test(words[0]!.text);
  const hasWith = /^with$/i.test(words[(start?.at ?? 0) + 1]?.text ?? '');
  return says || asks || hasWith || when.unread.length > 0 ? { ...read, ...when } : null;
}

function whenOf(
  chips: readonly Chip[],
): Pick<PlaceSentence, 'date' | 'from' | 'to' | 'minutes' | 'unread'> {
  const of = <Kind extends Chip['kind']>(...kinds: Kind[]) =>
    chips.filter((chip): chip is Extract<Chip, { kind: Kind }> =>
      (kinds as string[]).includes(chip.kind),
    );
  const [days, times, lengths] = [of('day', 'days'), of('time', 'between'), of('length')];
  const [day, time, length] = [days[0], times[0], lengths[0]];
  const unread = [
    ...[...days.slice(1), ...times.slice(1), ...lengths.slice(1)].map(
      ({ words }) => `“${words}”: only one is taken`,
    ),
    ...of('weekly', 'repeats').map(({ words }) => `“${words}”: a place is looked for once`),
    ...of('unread').map(({ words, why }) => (why ? `“${words}”: ${why}` : `“${words}”`)),
    ...times
      .slice(0, 1)
      .flatMap((one) =>
        one.kind === 'time' && one.zone ? [`“${one.words}”: times are those of the place`] : [],
      ),
  ];
  const when = { date: null as string | null, minutes: length?.minutes ?? null, unread };
  if (day) when.date = day.kind === 'day' ? day.date : day.from;
  if (!time) return { ...when, from: null, to: null };
  if (time.kind === 'between') return { ...when, from: time.from, to: time.to };
  // A beginning by itself is of something that lasts so long, or an hour.
  return {
    ...when,
    from: time.minute,
    to: Math.min(1440, time.minute + (when.minutes ?? 60)),
  };
}

/** "near Ines", "close to Tomas and Ines", "near me". */
function readNear(words: Word[], { people, me }: PlaceNames): number[] {
  const near: number[] = [];
  for (let at = 1; at < words.length; at++) {
    const lead = longest(words, at, 2, (text) => (NEAR.test(text) ? text : null));
    if (!lead) continue;
    let from = at + lead.count;
    for (;;) {
      const who = longest(words, from, 3, (text) =>
        /^(me|us)$/i.test(text) ? { id: me } : (nameIn(text, people)?.best ?? null),
      );
      if (!who) break;
      near.push(who.value.id);
      for (const word of words.slice(at, from + who.count)) word.taken = true;
      from += who.count;
      if (/^(and|,|&)$/i.test(words[from]?.text ?? '')) from++;
    }
  }
  return [...new Set(near)];
}

/** "for 6", "6 people", "6 seats": how many there have to be room for. */
function readSeats(words: Word[]): number {
  for (const [at, word] of words.entries()) {
    if (!/^\d{1,3}$/.test(word.text) || word.taken) continue;
    const after = words[at + 1]?.text ?? '';
    const before = words[at - 1]?.text ?? '';
    const isCounted = /^(people|persons?|seats?|places?|of|or)$/i.test(after);
    const isAlone =
      /^for$/i.test(before) && !/^(min\w*|h|hours?|days?|[ap]m|-|to|until)$/i.test(after);
    if (!isCounted && !isAlone) continue;
    word.taken = true;
    if (/^(people|persons?|seats?|places?)$/i.test(after)) words[at + 1]!.taken = true;
    return Number(word.text);
  }
  return 1;
}

function readSite(
  words: Word[],
  sites: readonly { id: number; name: string; city: string }[],
): number | null {
  for (let at = 1; at < words.length; at++) {
    for (const count of [3, 2, 1]) {
      const some = words.slice(at, at + count);
      if (some.length < count || some.some((word) => word.taken)) continue;
      const text = some.map((word) => word.text.toLowerCase()).join(' ');
      const site = sites.find(
        ({ name, city }) => name.toLowerCase() === text || city.toLowerCase() === text,
      );
      if (!site) continue;
      for (const word of some) word.taken = true;
      return site.id;
    }
  }
  return null;
}
