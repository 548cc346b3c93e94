import { readDays, readLengths, readParts, readRanges, findTimes } from '../sentence/when.ts';
import type { Chip, Take, Word } from '../sentence/words.ts';

/** What a sentence wants of a place. */
export interface PlaceSentence {
  kind: 'room' | 'lab' | 'desk' | 'equipment' | 'vehicle' | 'parking';
  /** `YYYY-MM-DD`; null where no day is named. */
  date: string | null;
  /** Minutes after midnight; null where no time is named. */
  from: number | null;
  to: number | null;
  /** How long; null where it is not said. */
  minutes: number | null;
  seats: number;
  siteId: number | null;
  /** Everything else: words that the place is to hold. */
  text: string;
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
  car: 'vehicle',
  parking: 'parking',
};

const JOINERS = /^(and|with|w\/|plus|&|,|;|in|at|@|on|the|for|a|an|any|please|free|all|day)$/i;
const ARTICLE = /^(an?|any|some|the)$/i;

/**
 * Reads a sentence that begins with a kind of place: "desk with monitor and window on Thursday", "room for
 * 6 in Bergen tomorrow 11:00 to 12:30", "any lab for 90 minutes on Friday".
 * @param sites by their names and cities
 * @param today `YYYY-MM-DD` on the reader's clock
 * @returns null where it begins with no kind, or says nothing more
 */
export function readPlaceSentence(
  sentence: string,
  sites: readonly { id: number; name: string; city: string }[],
  today: string,
): PlaceSentence | null {
  const words = sentence
    .replace(/[–—]/g, '-')
    .replace(/([,;])/g, ' $1 ')
    .replace(/(\d)-(\d)/g, '$1 - $2')
    .split(/\s+/)
    .filter(Boolean)
    .map((text): Word => ({ text, taken: false }));
  if (words.length > 1 && ARTICLE.test(words[0]!.text)) words.shift();
  const kind = KINDS[words[0]?.text.toLowerCase() ?? ''];
  if (!kind || words.length < 2) return null;
  words[0]!.taken = true;
  const chips: Chip[] = [];
  const take: Take = (at, count, chip) => {
    for (let k = at; k < at + count; k++) words[k]!.taken = true;
    chips.push(chip);
  };
  const seats = readSeats(words);
  readRanges(words, take);
  readLengths(words, take);
  findTimes(words, take);
  readParts(words, take, today);
  readDays(words, take, today);
  const siteId = readSite(words, sites);
  const text = words
    .filter((word) => !word.taken && !JOINERS.test(word.text))
    .map((word) => word.text)
    .join(' ');
  const read = { kind, seats, siteId, text, ...whenOf(chips) };
  const says =
    read.date !== null ||
    read.from !== null ||
    read.minutes !== null ||
    seats > 1 ||
    siteId !== null ||
    /^with$/i.test(words[1]!.text);
  return says ? read : null;
}

function whenOf(chips: readonly Chip[]): Pick<PlaceSentence, 'date' | 'from' | 'to' | 'minutes'> {
  const when: Pick<PlaceSentence, 'date' | 'from' | 'to' | 'minutes'> = {
    date: null,
    from: null,
    to: null,
    minutes: null,
  };
  for (const chip of chips) {
    if (chip.kind === 'day') when.date = chip.date;
    if (chip.kind === 'days') when.date = chip.from;
    if (chip.kind === 'length') when.minutes = chip.minutes;
    if (chip.kind === 'time') when.from = chip.minute;
    if (chip.kind === 'between') [when.from, when.to] = [chip.from, chip.to];
  }
  // A beginning by itself is of something that lasts so long, or an hour.
  if (when.from !== null && when.to === null)
    when.to = Math.min(1440, when.from + (when.minutes ?? 60));
  return when;
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
