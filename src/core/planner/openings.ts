import { BlockedCounter, slotGrid, slotStart, type SlotGrid } from '../availability/slots.ts';
import { DAY, HOUR, MINUTE, overlaps, sharedWith, type Interval } from '../time/interval.ts';
import { toLocal, zoneTables, type ZoneTable } from '../time/zoneTable.ts';
import {
  activeMembers,
  isNeeded,
  prepareLineUp,
  type LineUpMember,
  type PreparedMember,
  type Wishes,
} from './lineUp.ts';

/** Part of a meeting that lies outside a person's own working hours. */
export interface OutsideHours {
  id: number;
  minutes: number;
  side: 'early' | 'late';
}

/** A starting time at which the meeting can be held, with the facts its reasons are made of. */
export interface Opening extends Interval {
  /** Lower is better; see WEIGHTS. */
  score: number;
  /** Ids of optional members who cannot come. */
  missing: number[];
  outside: OutsideHours[];
  /** Ids of people whose midday (12:00 to 13:00 on their clock) it takes from. */
  midday: number[];
}

export interface Openings {
  /** Best first, spread over the days. */
  best: Opening[];
  /** How many starts are possible in all. */
  count: number;
}

/** Penalty points; an opening's score is their sum. docs/ARCHITECTURE.md says why. */
export const WEIGHTS = {
  /** For each optional member who cannot come. */
  missing: 60,
  /** For each minute that one person spends outside their working hours. */
  outsideMinute: 1,
  /** For each minute that one person gives up of 12:00 to 13:00 on their own clock. */
  middayMinute: 0.25,
  /** For each day that goes by before the meeting. */
  dayLater: 4,
  /** For a start that is not on the half hour of the reader's clock. */
  oddStart: 2,
};

const MOST_A_DAY = 2;

/**
 * Starts at which every needed member is free and nobody's hours are left by more than the stretch.
 * Resources listed are always needed.
 * @throws RangeError when a member's zone is not known
 */
export function openings(members: readonly LineUpMember[], wishes: Wishes): Openings {
  const { prepared, grid, candidates } = possibleStarts(members, wishes);
  if (candidates.length === 0) return { best: [], count: 0 };
  const tables = zoneTables(wishes.window);
  const scores = scoreStarts(prepared, grid, candidates, wishes, tables);
  const order = candidates.map((_, k) => k).sort((a, b) => scores[a]! - scores[b]! || a - b);
  const best = spread(order, candidates, grid, wishes, tables(wishes.zone)).map((k) =>
    describe(slotStart(grid, candidates[k]!), scores[k]!, prepared, wishes, tables),
  );
  return { best, count: candidates.length };
}

/** How many starts are possible; the cheap question that concessions are compared by. */
export const countOpenings = (members: readonly LineUpMember[], wishes: Wishes): number =>
  possibleStarts(members, wishes).candidates.length;

function possibleStarts(members: readonly LineUpMember[], wishes: Wishes) {
  const prepared = activeMembers(prepareLineUp(members, wishes));
  const grid = slotGrid(wishes.window, wishes.stepMinutes);
  const blocked = new BlockedCounter(grid, wishes.lengthMinutes);
  for (const member of prepared) {
    if (isNeeded(member, wishes.rule) || member.kind === 'resource') {
      blocked.add(member.taken, member.absurd);
    }
  }
  const counts = blocked.counts();
  const lastStart = wishes.window.end - wishes.lengthMinutes * MINUTE;
  const candidates: number[] = [];
  for (let i = 0; i < grid.count; i++) {
    const start = slotStart(grid, i);
    if (start > lastStart) break;
    if (counts[i] === 0 && start >= wishes.notBefore) candidates.push(i);
  }
  return { prepared, grid, candidates: prepared.length ? candidates : [] };
}

function scoreStarts(
  prepared: readonly PreparedMember[],
  grid: SlotGrid,
  candidates: readonly number[],
  wishes: Wishes,
  tables: (zone: string) => ZoneTable,
): Float64Array {
  const missing = new BlockedCounter(grid, wishes.lengthMinutes);
  for (const member of prepared) {
    if (!isNeeded(member, wishes.rule) && member.kind === 'person')
      missing.add(member.taken, member.absurd);
  }
  const missingCounts = missing.counts();
  const scores = new Float64Array(candidates.length);
  const local = tables(wishes.zone);
  const firstDay = Math.floor(toLocal(local, wishes.window.start) / DAY);
  candidates.forEach((slot, k) => {
    const start = toLocal(local, slotStart(grid, slot));
    scores[k] =
      missingCounts[slot]! * WEIGHTS.missing +
      (Math.floor(start / DAY) - firstDay) * WEIGHTS.dayLater +
      (start % (30 * MINUTE) === 0 ? 0 : WEIGHTS.oddStart);
  });
  addHoursPenalties(scores, prepared, grid, candidates, wishes, tables);
  return scores;
}

/** People with the same hours in the same zone pay the same, so each such group is swept once. */
function addHoursPenalties(
  scores: Float64Array,
  prepared: readonly PreparedMember[],
  grid: SlotGrid,
  candidates: readonly number[],
  wishes: Wishes,
  tables: (zone: string) => ZoneTable,
) {
  const groups = new Map<string, { member: PreparedMember; size: number }>();
  for (const member of prepared) {
    if (member.kind !== 'person' || !member.open || !isNeeded(member, wishes.rule)) continue;
    const key = `${member.zone}|${JSON.stringify(member.hours)}`;
    const group = groups.get(key);
    if (group) group.size++;
    else groups.set(key, { member, size: 1 });
  }
  const length = wishes.lengthMinutes * MINUTE;
  for (const { member, size } of groups.values()) {
    const table = tables(member.zone);
    let shift = 0;
    candidates.forEach((slot, k) => {
      const start = slotStart(grid, slot);
      const meeting = { start, end: start + length };
      while (shift < member.open!.length && member.open![shift]!.end <= start) shift++;
      let inside = 0;
      for (let i = shift; i < member.open!.length; i++) {
        const part = member.open![i]!;
        if (part.start >= meeting.end) break;
        inside += Math.min(part.end, meeting.end) - Math.max(part.start, start);
      }
      scores[k] =
        scores[k]! +
        size *
          (((length - inside) / MINUTE) * WEIGHTS.outsideMinute +
            middayMinutes(meeting, table) * WEIGHTS.middayMinute);
    });
  }
}

/** Minutes of a meeting between 12:00 and 13:00 on a zone's clock. */
function middayMinutes(meeting: Interval, table: ZoneTable): number {
  const start = toLocal(table, meeting.start);
  const end = start + meeting.end - meeting.start;
  let minutes = 0;
  for (let noon = Math.floor(start / DAY) * DAY + 12 * HOUR; noon < end; noon += DAY) {
    minutes += Math.max(0, Math.min(end, noon + HOUR) - Math.max(start, noon)) / MINUTE;
  }
  return minutes;
}

/** Takes the best starts that do not overlap one another, at most two a day. */
function spread(
  order: readonly number[],
  candidates: readonly number[],
  grid: SlotGrid,
  wishes: Wishes,
  local: ZoneTable,
): number[] {
  const length = Math.max(wishes.lengthMinutes, 60) * MINUTE;
  const chosen: { k: number; span: Interval; day: number }[] = [];
  for (const k of order) {
    if (chosen.length >= wishes.limit) break;
    const start = slotStart(grid, candidates[k]!);
    const span = { start, end: start + length };
    const day = Math.floor(toLocal(local, start) / DAY);
    if (chosen.filter((other) => other.day === day).length >= MOST_A_DAY) continue;
    if (chosen.some((other) => overlaps(other.span, span))) continue;
    chosen.push({ k, span, day });
  }
  return chosen.map(({ k }) => k);
}

function describe(
  start: number,
  score: number,
  prepared: readonly PreparedMember[],
  wishes: Wishes,
  tables: (zone: string) => ZoneTable,
): Opening {
  const meeting = { start, end: start + wishes.lengthMinutes * MINUTE };
  const opening: Opening = { ...meeting, score, missing: [], outside: [], midday: [] };
  for (const member of prepared) {
    if (member.kind !== 'person') continue;
    const clash = [...member.taken, ...member.absurd].some((span) => overlaps(span, meeting));
    if (clash) {
      opening.missing.push(member.id);
      continue;
    }
    if (!member.open) continue;
    const outside = outsideHours(member, meeting);
    if (outside) opening.outside.push(outside);
    if (middayMinutes(meeting, tables(member.zone)) > 0) opening.midday.push(member.id);
  }
  return opening;
}

/** How much of a meeting lies outside a member's hours, and on which side; null when none does. */
export function outsideHours(
  member: Pick<PreparedMember, 'id' | 'open'>,
  meeting: Interval,
): OutsideHours | null {
  if (!member.open) return null;
  const minutes = (meeting.end - meeting.start - sharedWith(member.open, meeting)) / MINUTE;
  if (minutes <= 0) return null;
  const startsInside = member.open.some(
    (shift) => shift.start <= meeting.start && meeting.start < shift.end,
  );
  const endsInside = member.open.some(
    (shift) => shift.start < meeting.end && meeting.end <= shift.end,
  );
  if (startsInside || endsInside)
    return { id: member.id, minutes, side: startsInside ? 'late' : 'early' };
  const next = member.open.find((shift) => shift.start >= meeting.end);
  const previous = member.open.findLast((shift) => shift.end <= meeting.start);
  const toNext = next ? next.start - meeting.end : Number.POSITIVE_INFINITY;
  const sincePrevious = previous ? meeting.start - previous.end : Number.POSITIVE_INFINITY;
  return { id: member.id, minutes, side: toNext < sincePrevious ? 'early' : 'late' };
}
