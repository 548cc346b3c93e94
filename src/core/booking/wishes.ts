/** What somebody wants of a place. */
export interface PlaceWishes {
  /** Seats at least. */
  seats: number;
  /** All of them. */
  features: readonly string[];
  /** On which floor; left out or null for any. */
  floor?: string | null;
  /** Words that its name, description or features hold, all of them. */
  text: string;
}

interface Wanted {
  name: string;
  description: string;
  capacity: number;
  features: readonly string[];
  floor: string;
}

/** One condition of what is wanted. */
export type Condition =
  | { kind: 'seats'; seats: number }
  | { kind: 'feature'; feature: string }
  | { kind: 'floor'; floor: string }
  | { kind: 'text' };

/** Text without accents, in small letters: what is compared with what was typed. */
export const folded = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{Diacritic}/gu, '')
    .toLowerCase();

/** The single conditions of some wishes. */
export const conditionsOf = ({ seats, features, floor, text }: PlaceWishes): Condition[] => [
  ...(seats > 1 ? [{ kind: 'seats' as const, seats }] : []),
  ...features.map((feature) => ({ kind: 'feature' as const, feature })),
  ...(floor ? [{ kind: 'floor' as const, floor }] : []),
  ...(text.trim() ? [{ kind: 'text' as const }] : []),
];

function meets(place: Wanted, condition: Condition, { text }: PlaceWishes): boolean {
  if (condition.kind === 'seats') return place.capacity >= condition.seats;
  if (condition.kind === 'feature') return place.features.includes(condition.feature);
  if (condition.kind === 'floor') return place.floor === condition.floor;
  const words = folded([place.name, place.description, ...place.features].join(' '));
  return folded(text)
    .split(/\s+/)
    .every((word) => words.includes(word));
}

/** Which places meet all that is wanted; of the others, which conditions they do not meet. */
export function fitting<Place extends Wanted>(
  places: readonly Place[],
  wishes: PlaceWishes,
): { fit: Place[]; others: { place: Place; unmet: Condition[] }[] } {
  const conditions = conditionsOf(wishes);
  const fit: Place[] = [];
  const others: { place: Place; unmet: Condition[] }[] = [];
  for (const place of places) {
    const unmet = conditions.filter((one) => !meets(place, one, wishes));
    if (unmet.length === 0) fit.push(place);
    else others.push({ place, unmet });
  }
  return { fit, others };
}

/**
 * What dropping each condition by itself would give, the most first: how many of the places that do not
 * fit would, were it not for this one.
 */
export function excluders<Place extends Wanted>(
  places: readonly Place[],
  wishes: PlaceWishes,
): { condition: Condition; gives: number }[] {
  const { others } = fitting(places, wishes);
  return conditionsOf(wishes)
    .map((condition) => ({
      condition,
      gives: others.filter(({ unmet }) => unmet.every((one) => sameCondition(one, condition)))
        .length,
    }))
    .sort((a, b) => b.gives - a.gives);
}

export const sameCondition = (a: Condition, b: Condition): boolean =>
  JSON.stringify(a) === JSON.stringify(b);
