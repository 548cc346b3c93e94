import { MINUTE, overlaps, type Interval } from '../time/interval.ts';
import { addDays, resolveWallTime, type WallTime } from '../time/wall.ts';
import { claimedTime, type Buffers } from './booking.ts';
import { barredTime, brokenRules, type Booker, type BrokenRule, type PlaceRules } from './rules.ts';
import { freeUnit, type UnitClaim } from './units.ts';
import { folded } from './wishes.ts';

/** A place that can be found, with what is taken of it around the day that is looked at. */
export interface FindablePlace extends Buffers {
  id: number;
  name: string;
  description: string;
  siteId: number;
  floor: string;
  capacity: number;
  features: readonly string[];
  units: number;
  rules: PlaceRules;
  zone: string;
  taken: readonly UnitClaim[];
  /** Whether whoever it is for looks after it, and is bound by none of its rules. */
  isKept: boolean;
}

/** Whoever is to have a place, as far as its rules ask. */
export type FindingFor = Omit<Booker, 'isSteward'>;
const bookerOf = ({ isKept }: FindablePlace, who: FindingFor): Booker => ({
  ...who,
  isSteward: isKept,
});

/** When a place is to be free, on a day of its own clock. */
export interface WantedTime {
  /** `YYYY-MM-DD`. */
  date: string;
  /** Minutes after its midnight between which it is to be, half-open; past 1440 they are the next day's. */
  from: number;
  to: number;
  /** How long; all of it, or any part of it that is so long. */
  minutes: number;
}

/** What is wanted of a place; what is null is not. */
export interface FindWishes {
  siteId: number | null;
  floor: string | null;
  /** Seats at least. */
  seats: number;
  /** All of them. */
  features: readonly string[];
  /** Words that its name, description or features hold, all of them. */
  text: string;
  time: WantedTime;
  /** Where the people are whom it is to be near. */
  near: readonly { siteId: number | null; floor: string }[];
}

/** One condition of what is wanted. */
export type FindCondition =
  | { kind: 'site' | 'floor' | 'text' | 'time' }
  | { kind: 'seats'; seats: number }
  | { kind: 'feature'; feature: string };

/** A place that meets everything but perhaps the time. */
export interface FoundPlace<Place> {
  place: Place;
  /** The first time that it can be had so long; null where it cannot. Its own time, half-open. */
  free: Interval | null;
  /** Of the people it is to be near: how many are on its floor, and how many at its site. */
  near: { onFloor: number; atSite: number };
}

export interface Finding<Place> {
  /** Those that are free first, then the nearest, then the smallest that are large enough. */
  found: FoundPlace<Place>[];
  /** What dropping each condition by itself would give, the most first; asked for where nothing is free. */
  excluded: { condition: FindCondition; gives: number }[];
  /** Whether all of that time is over already, wherever something was looked for. */
  isOver: boolean;
}

/** Why a place cannot be had when it is wanted, and what of the same day comes nearest. */
export interface NotThen {
  /** Rules that keep it out where nobody has it; else it is taken all the time, or that is over. */
  why: 'over' | 'taken' | BrokenRule[];
  /** So long as is wanted, or as its rules allow where that is not what they do. Half-open; null is never. */
  instead: Interval | null;
}

/** Starts that are tried lie so far apart. Minutes. */
const STEP = 15;
/** What is asked for instead of a time that keeps everything out: any half hour of the working day. */
export const ANY_TIME = { from: 8 * 60, to: 18 * 60, minutes: 30 };

/**
 * Finds places for a wish.
 * @param booker whoever is to have it, as far as rules ask
 * @param now epoch milliseconds; nothing is found that begins before
 */
export function findPlaces<Place extends FindablePlace>(
  places: readonly Place[],
  wishes: FindWishes,
  booker: FindingFor,
  now: number,
): Finding<Place> {
  const conditions = conditionsOf(wishes);
  const starts = startsOn(wishes.time);
  const found: FoundPlace<Place>[] = [];
  const gives = conditions.map(() => 0);
  for (const place of places) {
    const unmet = conditions.flatMap((one, k) => (meets(place, one, wishes) ? [] : k));
    // What fails by more than one of them is given by dropping none.
    if (unmet.length > 1) continue;
    const free = firstFree(place, starts(place.zone), wishes.time.minutes, booker, now);
    if (unmet.length === 0) found.push({ place, free, near: nearness(place, wishes) });
    else if (free) gives[unmet[0]!]!++;
  }
  const closeness = ({ near }: FoundPlace<Place>) => near.onFloor * 2 + near.atSite;
  found.sort(
    (a, b) =>
      Number(b.free !== null) - Number(a.free !== null) ||
      closeness(b) - closeness(a) ||
      (a.free && b.free ? a.free.start - b.free.start : 0) ||
      a.place.capacity - b.place.capacity ||
      a.place.id - b.place.id,
  );
  const anyTime = startsOn({ ...wishes.time, ...ANY_TIME });
  const shorter = found.filter(
    ({ free, place }) =>
      !free && firstFree(place, anyTime(place.zone), ANY_TIME.minutes, booker, now),
  ).length;
  const excluded = [
    ...conditions.map((condition, k) => ({ condition, gives: gives[k]! })),
    { condition: { kind: 'time' } as const, gives: shorter },
  ];
  const isOver =
    places.length > 0 && places.every(({ zone }) => starts(zone).every((start) => start < now));
  return { found, excluded: excluded.sort((a, b) => b.gives - a.gives), isOver };
}

/**
 * Why a place that is not free when it is wanted cannot be had then, and when it can that day, the nearest
 * to the beginning of that time.
 * @param now epoch milliseconds
 */
export function notThen(
  place: FindablePlace,
  time: WantedTime,
  who: FindingFor,
  now: number,
): NotThen {
  const { zone, rules, units, taken } = place;
  const booker = bookerOf(place, who);
  const coming = startsOn(time)(zone).filter((start) => start >= now);
  const untaken = coming
    .map((start) => ({ start, end: start + time.minutes * MINUTE }))
    .find((span) => freeUnit(taken, claimedTime(span, place), units) !== null);
  const why =
    coming.length === 0
      ? 'over'
      : untaken
        ? brokenRules(rules, untaken, booker, { zone, now })
        : 'taken';
  const minutes = allowedLength(rules, time.minutes, booker);
  const from = resolveWallTime(wallTime(time.date, time.from), zone).instant;
  const nearest = [...startsOn({ date: time.date, from: 0, to: DAY_MINUTES, minutes })(zone)].sort(
    (a, b) => Math.abs(a - from) - Math.abs(b - from) || a - b,
  );
  return { why, instead: firstFree(place, nearest, minutes, who, now) };
}

const DAY_MINUTES = 1440;

/** The length nearest to one that a place's rules allow. Minutes. */
function allowedLength(
  { shortestMinutes, longestMinutes, stepMinutes }: PlaceRules,
  minutes: number,
  { isSteward }: Booker,
): number {
  if (isSteward) return minutes;
  const step = stepMinutes ?? 1;
  const most = Math.floor((longestMinutes ?? DAY_MINUTES) / step) * step;
  const least = Math.ceil((shortestMinutes ?? 0) / step) * step;
  return Math.max(least, Math.min(most, Math.ceil(minutes / step) * step));
}

const conditionsOf = ({ siteId, floor, seats, features, text }: FindWishes): FindCondition[] => [
  ...(siteId === null ? [] : [{ kind: 'site' as const }]),
  ...(floor === null ? [] : [{ kind: 'floor' as const }]),
  ...(seats > 1 ? [{ kind: 'seats' as const, seats }] : []),
  ...features.map((feature) => ({ kind: 'feature' as const, feature })),
  ...(text.trim() ? [{ kind: 'text' as const }] : []),
];

function meets(place: FindablePlace, condition: FindCondition, wishes: FindWishes): boolean {
  switch (condition.kind) {
    case 'site':
      return place.siteId === wishes.siteId;
    case 'floor':
      return place.floor === wishes.floor;
    case 'seats':
      return place.capacity >= condition.seats;
    case 'feature':
      return place.features.includes(condition.feature);
    case 'text': {
      const words = folded([place.name, place.description, ...place.features].join(' '));
      return folded(wishes.text)
        .split(/\s+/)
        .every((word) => words.includes(word));
    }
    case 'time':
      return true;
  }
}

function nearness({ siteId, floor }: FindablePlace, { near }: FindWishes) {
  const atSite = near.filter((one) => one.siteId === siteId);
  const onFloor = floor === '' ? [] : atSite.filter((one) => one.floor === floor);
  return { onFloor: onFloor.length, atSite: atSite.length };
}

/** When what is looked for could begin, on each clock: worked out once for all places of a clock. */
function startsOn({ date, from, to, minutes }: WantedTime): (zone: string) => readonly number[] {
  const known = new Map<string, number[]>();
  return (zone) => {
    let starts = known.get(zone);
    if (!starts) {
      starts = [];
      for (let at = from; at + minutes <= to; at += STEP)
        starts.push(resolveWallTime(wallTime(date, at), zone).instant);
      known.set(zone, starts);
    }
    return starts;
  };
}

const wallTime = (date: string, minute: number): WallTime => {
  const two = (number: number) => String(number).padStart(2, '0');
  const hour = Math.floor(minute / 60);
  return `${hour < 24 ? date : addDays(date, Math.floor(hour / 24))}T${two(hour % 24)}:${two(minute % 60)}`;
};

/**
 * The first of some starts at which a place is free so long, kept free before and after as it asks, and
 * allowed by its rules.
 */
function firstFree(
  place: FindablePlace,
  starts: readonly number[],
  minutes: number,
  who: FindingFor,
  now: number,
): Interval | null {
  const { zone, rules, units, taken } = place;
  const booker = bookerOf(place, who);
  const coming = starts.filter((start) => start >= now);
  if (coming.length === 0) return null;
  // Worked out once, it tells of most starts that they cannot be, each of which costs more by itself.
  const window = { start: Math.min(...coming), end: Math.max(...coming) + minutes * MINUTE };
  const barred = barredTime(rules, window, booker, { zone, now });
  for (const start of coming) {
    const span = { start, end: start + minutes * MINUTE };
    if (barred.some((one) => overlaps(one, span))) continue;
    if (freeUnit(taken, claimedTime(span, place), units) === null) continue;
    if (brokenRules(rules, span, booker, { zone, now }).length === 0) return span;
  }
  return null;
}
