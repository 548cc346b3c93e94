import { MINUTE, overlaps, type Interval } from '../time/interval.ts';
import { claimedTime, type Buffers, type PlaceFacts } from './booking.ts';
import { brokenRules, type BrokenRule, type PlaceRules } from './rules.ts';
import type { UnitClaim } from './units.ts';

/** A booking whose place goes out of use. */
export interface AffectedBooking {
  id: string;
  /** Its own time, half-open. */
  span: Interval;
  people: number;
  /** The teams of whoever has it, which some places ask for. */
  teams: readonly number[];
  /** By how much its time may be moved, either way. Minutes; 0 where its holder does not allow it. */
  shiftMinutes: number;
}

/** A place that could be had instead. */
export interface Alternative extends PlaceFacts, Buffers {
  units: number;
  rules: PlaceRules;
  zone: string;
  /** What others have of it, with what is kept free around that. */
  taken: readonly UnitClaim[];
}

/** Where a booking goes. */
export interface PlaceMove {
  id: string;
  placeId: number;
  unit: number;
  /** Its own time there. */
  span: Interval;
  /** Which features of its place it goes without. */
  lacks: string[];
  /** Whether it is on another floor. */
  walks: boolean;
}

export interface Replacement {
  moves: PlaceMove[];
  /** Those for which nothing is left. */
  unplaced: string[];
  /** Whether nothing better exists; else it is the best that was found in the steps allowed. */
  isBest: boolean;
}

/** By how much times are moved at a time. */
const STEP_MINUTES = 15;

/**
 * What counts, the first above all that follow: as many as possible have a place; as many as possible
 * keep their time; the fewest features are gone without; the fewest go to another floor; then times move
 * by little, and places are no larger than needed. Each weighs more than all of the next together, for as
 * many bookings as MOST_DISPLACED.
 */
export const WEIGHT = {
  unplaced: 1e13,
  shifted: 1e10,
  lacking: 5e6,
  walking: 2e4,
} as const;
export const MOST_DISPLACED = 200;
const MOST_LACKING = 9;
const MOST_MISFIT = 50;

/** Rules that a steward's move keeps; how early it is made, and how much somebody has, is nobody's fault. */
const KEPT: readonly BrokenRule['rule'][] = [
  'closed',
  'too-short',
  'too-long',
  'off-step',
  'not-for-you',
  'somebodys',
];

interface Option {
  move: PlaceMove;
  claimed: Interval;
  cost: number;
}

interface Wanting {
  booking: AffectedBooking;
  /** The cheapest first. */
  options: Option[];
}

/**
 * Finds another place for each of some bookings of a place, all of them together.
 * @param home the place that goes out of use
 * @param refuges places of its kind; of those elsewhere than at its site none is taken
 * @param mostSteps options tried at most, which bounds the time
 */
export function replace(
  bookings: readonly AffectedBooking[],
  home: PlaceFacts,
  refuges: readonly Alternative[],
  mostSteps = 300_000,
): Replacement {
  const places = refuges.filter((one) => one.id !== home.id && one.siteId === home.siteId);
  const wanting = bookings.map((booking) => ({
    booking,
    options: optionsOf(booking, home, places),
  }));
  const found = new Map<string, PlaceMove>();
  let steps = mostSteps;
  for (const group of groupsOf(wanting, places)) {
    const best = assignUnits(group, steps);
    // What one group does not use is left for the next; each has a first try in any case.
    steps = best.steps;
    for (const move of best.moves) found.set(move.id, move);
  }
  return {
    moves: bookings.flatMap(({ id }) => found.get(id) ?? []),
    unplaced: bookings.flatMap(({ id }) => (found.has(id) ? [] : [id])),
    isBest: steps > 0,
  };
}

/** Everything that a booking could have in place of what it has, if the others were not. */
function optionsOf(
  booking: AffectedBooking,
  home: PlaceFacts,
  places: readonly Alternative[],
): Option[] {
  const options: Option[] = [];
  for (const place of places) {
    if (place.capacity < booking.people && place.capacity > 0) continue;
    const lacks = home.features.filter((feature) => !place.features.includes(feature));
    const walks = place.floor !== home.floor;
    const base =
      Math.min(lacks.length, MOST_LACKING) * WEIGHT.lacking +
      (walks ? WEIGHT.walking : 0) +
      Math.min(Math.max(0, place.capacity - booking.people), MOST_MISFIT);
    for (const shift of shiftsOf(booking.shiftMinutes)) {
      const span = {
        start: booking.span.start + shift * MINUTE,
        end: booking.span.end + shift * MINUTE,
      };
      if (!isAllowed(place, span, booking)) continue;
      const claimed = claimedTime(span, place);
      const cost = base + (shift === 0 ? 0 : WEIGHT.shifted + Math.abs(shift) / STEP_MINUTES);
      for (let unit = 1; unit <= place.units; unit++) {
        if (place.taken.some((claim) => claim.unit === unit && overlaps(claim, claimed))) continue;
        const move = { id: booking.id, placeId: place.id, unit, span, lacks, walks };
        options.push({ move, claimed, cost });
      }
    }
  }
  return options.sort((a, b) => a.cost - b.cost);
}

/** By how many minutes a time is moved: not at all, then ever further, the later one first. */
function shiftsOf(most: number): number[] {
  const shifts = [0];
  for (let by = STEP_MINUTES; by <= most; by += STEP_MINUTES) shifts.push(by, -by);
  return shifts;
}

function isAllowed(
  { rules, zone }: Alternative,
  span: Interval,
  { teams }: AffectedBooking,
): boolean {
  const booker = { isSteward: false, teams, has: [] };
  return brokenRules(rules, span, booker, { zone, now: span.start }).every(
    ({ rule }) => !KEPT.includes(rule),
  );
}

/** Those that could come into each other's way, together, the earliest first. */
function groupsOf(wanting: readonly Wanting[], places: readonly Alternative[]): Wanting[][] {
  const widest = Math.max(0, ...places.map((one) => one.prepareMinutes + one.clearMinutes));
  const reach = ({ booking: { span, shiftMinutes } }: Wanting) => ({
    start: span.start - (shiftMinutes + widest) * MINUTE,
    end: span.end + (shiftMinutes + widest) * MINUTE,
  });
  const groups: Wanting[][] = [];
  let end = Number.NEGATIVE_INFINITY;
  for (const one of [...wanting].sort((a, b) => reach(a).start - reach(b).start)) {
    const its = reach(one);
    if (its.start < end) groups.at(-1)!.push(one);
    else groups.push([one]);
    end = Math.max(end, its.end);
  }
  return groups;
}

interface Settled {
  cost: number;
  moves: PlaceMove[];
  /** How many steps are left. */
  steps: number;
}

/**
 * The cheapest way to place a group: option by option, the cheapest first, given up as soon as it can
 * only become dearer than the best that is known.
 */
function assignUnits(group: readonly Wanting[], mostSteps: number): Settled {
  // Those with the fewest ways first: what they leave is the others'.
  const order = [...group].sort((a, b) => a.options.length - b.options.length);
  const least = order.map(({ options }) => options[0]?.cost ?? WEIGHT.unplaced);
  /** What all from one on cost at least. */
  const rest = [...least, 0];
  for (let k = least.length - 1; k >= 0; k--) rest[k] = least[k]! + rest[k + 1]!;
  let best: Settled = { cost: Number.POSITIVE_INFINITY, moves: [], steps: 0 };
  let steps = mostSteps;
  const chosen: Option[] = [];
  const go = (k: number, cost: number): void => {
    if (cost + rest[k]! >= best.cost || (steps <= 0 && best.moves.length > 0)) return;
    if (k === order.length) {
      best = { cost, moves: chosen.map((one) => one.move), steps: 0 };
      return;
    }
    for (const option of order[k]!.options) {
      if (cost + option.cost + rest[k + 1]! >= best.cost) break;
      if (steps-- <= 0 && best.moves.length > 0) return;
      if (chosen.some((other) => collide(other, option))) continue;
      chosen.push(option);
      go(k + 1, cost + option.cost);
      chosen.pop();
    }
    go(k + 1, cost + WEIGHT.unplaced);
  };
  go(0, 0);
  return { ...best, steps: Math.max(0, steps) };
}

const collide = (a: Option, b: Option): boolean =>
  a.move.placeId === b.move.placeId &&
  a.move.unit === b.move.unit &&
  overlaps(a.claimed, b.claimed);
