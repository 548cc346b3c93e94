import { withoutEnd } from '../withoutEnd.ts';

/** Places: that are read from one text. */
export const MOST_PLACES_PASTED = 500;
/** Characters: of a text that is read. */
const LONGEST_TEXT = 20_000;
const LONGEST_NAME = 80;

export type PlaceKind = 'room' | 'lab' | 'desk' | 'equipment' | 'vehicle' | 'parking';

/** A place that a text names. */
export interface PastedPlace {
  name: string;
  kind: PlaceKind;
  /** Seats; 0 where it says none. */
  capacity: number;
}

export interface PastedPlaces {
  places: PastedPlace[];
  /** Parts that were not understood, each with why. */
  doubts: { text: string; why: string }[];
}

/** What each kind is called, one and several. */
const WORDS: [RegExp, PlaceKind, string][] = [
  [/\b(meeting )?rooms?\b|\bhalls?\b|\bstudios?\b/i, 'room', 'Room'],
  [/\blab(oratorie|orator(y|ies))?s?\b/i, 'lab', 'Lab'],
  [/\bdesks?\b|\bworkplaces?\b/i, 'desk', 'Desk'],
  [/\bparking( spaces?| places?)?\b|\bcar parks?\b/i, 'parking', 'Parking space'],
  [
    /\b(vans?|cars?|boats?|bikes?|bicycles?|trucks?|lorr(y|ies)|vehicles?)\b/i,
    'vehicle',
    'Vehicle',
  ],
  [
    /\b(projectors?|cameras?|kits?|drones?|equipment|laptops?|screens?)\b/i,
    'equipment',
    'Equipment',
  ],
];
const SEATS =
  /(?:\bfor |\bwith |[,(:–-] ?|\s)(\d{1,4})(?: ?(?:seats?|people|persons?|places?))?\)?$/i;
const COUNT = /^(\d{1,3}|an?|one|two|three|four|five|six|seven|eight|nine|ten|twelve)\s+/i;
const COUNTED: Record<string, number> = {
  ...{ a: 1, an: 1, one: 1, two: 2, three: 3, four: 4, five: 5, six: 6, seven: 7, eight: 8 },
  ...{ nine: 9, ten: 10, twelve: 12 },
};

/**
 * Reads places from a sentence or a list: "Gannet 8, Fulmar for 12; 4 desks and a van". A name and a number is a
 * room with so many seats; a number and a kind are so many of it, numbered.
 */
export function readPlaces(text: string): PastedPlaces {
  const read: PastedPlaces = { places: [], doubts: [] };
  const parts = text
    .slice(0, LONGEST_TEXT)
    .split(/[\n;]+|,(?!\s*\d+(?:\s*(?:seats?|people|persons?|places?))?\s*(?:[\n;,.]|$))|\band\b/i)
    .map((part) =>
      part
        .trim()
        .replace(/^[-*•·–]\s*|^(we have|there (is|are))\s+/i, '')
        .replace(/[.,]$/, '')
        .trim(),
    )
    .filter(Boolean);
  const names = new Set<string>();
  for (const part of parts) {
    const found = placesIn(part, names);
    if (typeof found === 'string') read.doubts.push({ text: part, why: found });
    else if (read.places.length + found.length > MOST_PLACES_PASTED)
      read.doubts.push({
        text: part,
        why: `At most ${MOST_PLACES_PASTED} places are read at once.`,
      });
    else
      for (const place of found) {
        names.add(place.name.toLowerCase());
        read.places.push(place);
      }
  }
  return read;
}

/** The places of one part; why there are none, as a sentence. */
function placesIn(part: string, names: ReadonlySet<string>): PastedPlace[] | string {
  const count = COUNT.exec(part);
  const rest = count ? part.slice(count[0].length) : part;
  const seats = SEATS.exec(rest);
  const capacity = seats ? Number(seats[1]) : 0;
  const said = withoutEnd(seats ? rest.slice(0, seats.index) : rest, ' \t,:(–-').trim();
  const [, kind, word] = WORDS.find(([pattern]) => pattern.test(said)) ?? [
    null,
    'room' as const,
    '',
  ];
  const own = said.replace(WORDS.find(([pattern]) => pattern.test(said))?.[0] ?? /^$/, '').trim();
  if (count && word) {
    const many = COUNTED[count[1]!.toLowerCase()] ?? Number(count[1]);
    if (many < 1) return 'That is none.';
    const base = own
      ? capital(said.replace(/s$/i, ''))
      : kind === 'vehicle' || kind === 'equipment'
        ? capital(single(said))
        : word;
    return numbered(base, many, names).map((name) => ({ name, kind, capacity }));
  }
  const name = capital(said).slice(0, LONGEST_NAME);
  if (!/\p{L}/u.test(name)) return 'It says no name.';
  if (count && !word)
    return 'It says how many, and not of what: rooms, labs, desks, vehicles, parking or equipment.';
  if (names.has(name.toLowerCase())) return 'It stands there already.';
  return [{ name, kind, capacity: capacity || (kind === 'desk' ? 1 : 0) }];
}

/** So many names: one by itself, several with numbers, none twice. */
function numbered(base: string, many: number, names: ReadonlySet<string>): string[] {
  if (many === 1 && !names.has(base.toLowerCase())) return [base];
  const made: string[] = [];
  for (let number = 1; made.length < many; number++) {
    const name = `${base} ${number}`;
    if (!names.has(name.toLowerCase())) made.push(name);
  }
  return made;
}

const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1);
const single = (text: string): string => text.replace(/ies$/i, 'y').replace(/s$/i, '');
