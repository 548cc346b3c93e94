import { slotStart } from '../availability/slots.ts';
import { DAY, MINUTE, type Interval } from '../time/interval.ts';
import { standing, type Standing } from '../time/spans.ts';
import { toLocal, type ZoneTable } from '../time/zoneTable.ts';
import { middayMinutes, outsideMinutes, outsideOf, type OutsideHours } from './hours.ts';
import { isNeeded, isTaken, type LineUpMember, type PreparedMember } from './lineUp.ts';
import { freeRooms, pickRoom, type PickedRoom } from './rooms.ts';
import {
  brokenMinutes,
  outsideWeight,
  rounded,
  slotPoints,
  startPoints,
  touches,
  weighingOf,
  type Weighing,
} from './scoring.ts';
import { survey, type Survey } from './survey.ts';
import { NO_TURNS, turnsOf, type Turns } from './turns.ts';
import { WEIGHTS } from './weights.ts';
import { NO_SURROUNDINGS, type Surroundings, type Wishes } from './wishes.ts';

/** What a score is the sum of; see WEIGHTS. */
export interface Points {
  conflicts: number;
  missing: number;
  unknown: number;
  hours: number;
  midday: number;
  backToBack: number;
  broken: number;
  waiting: number;
  notice: number;
  odd: number;
  rooms: number;
}

/** A starting time at which the meeting can be held, with the facts its reasons are made of. */
export interface Opening extends Interval {
  /** Lower is better: the sum of the points. */
  score: number;
  points: Points;
  /** Ids of people who cannot come: optional ones, needed ones too where conflicts are asked for. */
  missing: number[];
  /** Ids of listed places that are taken. */
  taken: number[];
  /** People who come outside their hours, and how often in a row they did so before. */
  outside: (OutsideHours & { turns: number })[];
  /** Ids of people who come over their midday (12:00 to 13:00 on their clock). */
  midday: number[];
  /** Ids of people who come with less than ten minutes to another commitment. */
  backToBack: number[];
  /** People whose undisturbed time it breaks up, by how many minutes. */
  broken: { id: number; minutes: number }[];
  /** Ids of people of whom nothing is known then. */
  doubtful: number[];
  rooms: PickedRoom[];
}

export interface Openings {
  /** Best first, spread over the days. */
  best: Opening[];
  /** How many starts are possible in all. */
  count: number;
}

const MOST_A_DAY = 2;

/**
 * Starts at which every needed member is free, nobody's hours are left by more than the wishes
 * allow and every site that needs one has a fitting room; with `leastBad`, all starts at which not
 * everything is in the way, those with the fewest conflicts first.
 * @param among slots to look at only, such as those that a concession adds
 * @throws RangeError when a member's zone is not known
 */
export function openings(
  members: readonly LineUpMember[],
  wishes: Wishes,
  surroundings: Surroundings = NO_SURROUNDINGS,
  among?: (slot: number) => boolean,
): Openings {
  return rank(survey(members, wishes, surroundings), members, wishes, surroundings, among);
}

/** How many starts are possible; the cheap question that concessions are compared by. */
export const countOpenings = (
  members: readonly LineUpMember[],
  wishes: Wishes,
  surroundings: Surroundings = NO_SURROUNDINGS,
): number => survey(members, wishes, surroundings).candidates.length;

/** Ranks what a survey found. */
export function rank(
  found: Survey,
  members: readonly LineUpMember[],
  wishes: Wishes,
  { history }: Surroundings,
  among?: (slot: number) => boolean,
): Openings {
  const { prepared, grid, blocked, candidates: free } = found;
  const count = free.length;
  let candidates = free;
  if (wishes.leastBad && prepared.length > 0) {
    const all = found.blockers.length;
    candidates = [];
    for (let slot = found.from; slot < found.to; slot++)
      if (blocked[slot]! < Math.max(all, 1)) candidates.push(slot);
  }
  if (among) candidates = candidates.filter(among);
  if (candidates.length === 0) return { best: [], count };
  const weighing = weighingOf(prepared, wishes, turnsOf(members, history));
  const points = slotPoints(weighing, grid, candidates);
  for (const slot of candidates) {
    let more = blocked[slot]! * WEIGHTS.conflict;
    for (const { need, best } of found.choices)
      if (best[slot] !== -1) more += need.fitting[best[slot]!]!.cost;
    points[slot] = rounded(points[slot]! + more);
  }
  const chosen = spread(candidates, points, found, wishes, weighing.tables(wishes.zone));
  return { best: chosen.map((slot) => describe(slotStart(grid, slot), found, weighing)), count };
}

/** Takes of each day the two best starts that do not overlap, and of those the best; earlier on a tie. */
function spread(
  candidates: readonly number[],
  points: Float64Array,
  { grid }: Survey,
  wishes: Wishes,
  local: ZoneTable,
): number[] {
  const apart = Math.ceil(Math.max(wishes.lengthMinutes, 60) / grid.stepMinutes);
  const better = (a: number, b: number) => points[a]! - points[b]! || a - b;
  const chosen: number[] = [];
  let day: number[] = [];
  let dayEnd = Number.NEGATIVE_INFINITY;
  const closeDay = () => {
    const taken: number[] = [];
    for (let k = 0; k < MOST_A_DAY; k++) {
      let best = -1;
      for (const slot of day) {
        if (taken.some((other) => Math.abs(other - slot) < apart)) continue;
        if (best === -1 || better(slot, best) < 0) best = slot;
      }
      if (best === -1) break;
      taken.push(best);
    }
    chosen.push(...taken);
    day = [];
  };
  for (const slot of candidates) {
    const start = toLocal(local, slotStart(grid, slot));
    if (start >= dayEnd) {
      closeDay();
      dayEnd = (Math.floor(start / DAY) + 1) * DAY;
    }
    day.push(slot);
  }
  closeDay();
  return chosen.sort(better).slice(0, wishes.limit);
}

/** The facts of one start, worked out from their definitions, and its points from the facts. */
function describe(start: number, found: Survey, weighing: Weighing): Opening {
  const { wishes, turns, tables } = weighing;
  const meeting = { start, end: start + wishes.lengthMinutes * MINUTE };
  const [waiting, odd, notice] = startPoints(start, weighing);
  const points: Points = {
    conflicts: 0,
    missing: 0,
    unknown: 0,
    hours: 0,
    midday: 0,
    backToBack: 0,
    broken: 0,
    waiting,
    notice,
    odd,
    rooms: 0,
  };
  const opening: Opening = {
    ...meeting,
    score: 0,
    points,
    missing: [],
    taken: [],
    outside: [],
    midday: [],
    backToBack: [],
    broken: [],
    doubtful: [],
    rooms: found.choices.map(({ need }) => pickRoom(need, meeting)),
  };
  const hoursOf = sharedFacts(meeting, tables);
  for (const member of found.prepared) {
    const facts = hoursOf(member);
    const own = turns.get(member.id) ?? NO_TURNS;
    addMember(opening, member, isNeeded(member, wishes), facts, own, wishes.window);
  }
  for (const { need } of found.choices) {
    const best = freeRooms(need, meeting)[0];
    if (best) points.rooms += best.cost;
    else points.conflicts += WEIGHTS.conflict;
  }
  opening.score = rounded(Object.values(points).reduce((sum, one: number) => sum + one, 0));
  return opening;
}

/** What a meeting means for everybody with the same hours. */
interface HoursFacts {
  absurd: boolean;
  closed: Standing;
  outside: Omit<OutsideHours, 'id'> | null;
  /** What those minutes weigh. */
  weight: number;
  midday: number;
}

function sharedFacts(meeting: Interval, tables: (zone: string) => ZoneTable) {
  const known = new Map<string, HoursFacts>();
  return ({ hoursKey, open, days, closed, absurd, zone }: PreparedMember): HoursFacts => {
    let facts = known.get(hoursKey);
    if (!facts) {
      facts = {
        absurd: standing(absurd, meeting).overlaps,
        closed: standing(closed, meeting),
        outside: open && outsideOf({ open, days }, meeting),
        weight: open ? outsideMinutes({ open, days }, meeting, tables(zone)) : 0,
        midday: open ? middayMinutes(meeting, tables(zone)) : 0,
      };
      known.set(hoursKey, facts);
    }
    return facts;
  };
}

function addMember(
  opening: Opening,
  member: PreparedMember,
  needed: boolean,
  { absurd, closed, outside, weight, midday }: HoursFacts,
  turns: Turns,
  window: Interval,
) {
  const { points } = opening;
  const taken = standing(member.taken, opening);
  const absent = absurd || isTaken(member, opening);
  if (absent && needed) points.conflicts += WEIGHTS.conflict;
  if (member.kind === 'resource') {
    if (absent) opening.taken.push(member.id);
    return;
  }
  if (needed) {
    if (outside) points.hours += weight * outsideWeight(turns, outside.side);
    points.midday += midday * WEIGHTS.middayMinute;
  }
  if (absent) {
    opening.missing.push(member.id);
    if (!needed) points.missing += WEIGHTS.missing;
    return;
  }
  if (outside) {
    const before = outside.side === 'break' ? 0 : turns[outside.side];
    opening.outside.push({ id: member.id, ...outside, turns: before });
  }
  if (midday > 0) opening.midday.push(member.id);
  if (member.doubtful.length > 0 && standing(member.doubtful, opening).overlaps) {
    opening.doubtful.push(member.id);
    points.unknown += WEIGHTS.unknown;
  }
  const sides = touches(taken, opening);
  if (sides > 0) opening.backToBack.push(member.id);
  const loud = member.doubtful.length > 0 ? standing(member.loud, opening) : taken;
  const minutes = brokenMinutes(loud, closed, opening, window);
  if (minutes > 0) opening.broken.push({ id: member.id, minutes });
  if (!needed) return;
  points.backToBack += sides * WEIGHTS.backToBack;
  points.broken += minutes * WEIGHTS.brokenMinute;
}
