import { BlockedCounter, slotStart, startGrid, type SlotGrid } from '../availability/slots.ts';
import { DAY, MINUTE } from '../time/interval.ts';
import { toLocal, zoneTables } from '../time/zoneTable.ts';
import {
  activeMembers,
  inOrder,
  isNeeded,
  prepareLineUp,
  type LineUpMember,
  type PreparedMember,
} from './lineUp.ts';
import { refusedStarts } from './refusedStarts.ts';
import { chooseRooms, siteNeeds, type RoomChoice } from './rooms.ts';
import { NO_SURROUNDINGS, type Surroundings, type Wishes } from './wishes.ts';

/** Who and what stands in the way of every start in the window. */
export interface Survey {
  /** The members that count, laid out. */
  prepared: readonly PreparedMember[];
  grid: SlotGrid;
  /** How many needed members, and sites without a free room, block each start; or NOT_ASKED. */
  blocked: Uint16Array;
  /** Where one alone blocks a start: its position in `blockers`, counted from 1. */
  onlyOne: Int32Array;
  /** Ids of needed members, then the sites that need a room. */
  blockers: readonly Blocker[];
  choices: readonly RoomChoice[];
  /** Slots `[from, to)` that begin neither too early nor end too late. */
  from: number;
  to: number;
  /** Slots at which nothing needed is in the way, in order. */
  candidates: number[];
}

/** What can stand in the way of a time. */
export type Blocker = { kind: 'member'; id: number } | { kind: 'site'; siteId: number };

/**
 * Counts what is in the way of every start. An empty line-up has no candidates.
 * @throws RangeError when a member's zone is not known
 */
export function survey(
  members: readonly LineUpMember[],
  wishes: Wishes,
  { rooms }: Surroundings = NO_SURROUNDINGS,
  prepared: readonly PreparedMember[] = prepareLineUp(activeMembers(members), wishes),
): Survey {
  const grid = startGrid(wishes.window, wishes.stepMinutes);
  const counter = new BlockedCounter(grid, wishes.lengthMinutes);
  const blockers: Blocker[] = [];
  for (const member of prepared) {
    if (!isNeeded(member, wishes)) continue;
    blockers.push({ kind: 'member', id: member.id });
    const refused = refusedStarts(member.terms, grid, wishes.lengthMinutes);
    counter.add(inOrder(member.blocks, refused), member.absurd, blockers.length);
  }
  const choices = siteNeeds(members, wishes, rooms).map((need) =>
    chooseRooms(need, grid, wishes.lengthMinutes),
  );
  for (const { need, best } of choices) {
    blockers.push({ kind: 'site', siteId: need.siteId });
    forEachRun(best, (from, to) => counter.addRun(from, to, blockers.length));
  }
  const blocked = counter.counts();
  const { from, to } = slotsAsked(grid, wishes);
  leaveOut(blocked, grid, wishes);
  const candidates: number[] = [];
  if (prepared.length > 0) {
    for (let slot = from; slot < to; slot++) if (blocked[slot] === 0) candidates.push(slot);
  }
  return {
    prepared,
    grid,
    blocked,
    onlyOne: counter.tagSums(),
    blockers,
    choices,
    from,
    to,
    candidates,
  };
}

/** In `blocked`: that a start is not asked for, whoever could come. */
export const NOT_ASKED = 0xffff;

/** Leaves out the starts that do not lie in the part of the day that is wished. */
function leaveOut(blocked: Uint16Array, grid: SlotGrid, wishes: Wishes): void {
  const { between, window, zone, lengthMinutes } = wishes;
  if (!between) return;
  const table = zoneTables(window)(zone);
  for (let slot = 0; slot < grid.count; slot++) {
    const minute = Math.floor((toLocal(table, slotStart(grid, slot)) % DAY) / MINUTE);
    if (minute < between.from || minute + lengthMinutes > between.to) blocked[slot] = NOT_ASKED;
  }
}

/** Runs of slots, both ends included, at which no room is free. */
function forEachRun(best: Int16Array, visit: (from: number, to: number) => void): void {
  for (let slot = 0; slot < best.length; slot++) {
    if (best[slot] !== -1) continue;
    const from = slot;
    while (slot + 1 < best.length && best[slot + 1] === -1) slot++;
    visit(from, slot);
  }
}

function slotsAsked(grid: SlotGrid, { notBefore, window, lengthMinutes }: Wishes) {
  const step = grid.stepMinutes * MINUTE;
  const lastStart = window.end - lengthMinutes * MINUTE;
  const from = Math.max(0, Math.ceil((notBefore - grid.first) / step));
  const to = Math.min(grid.count, Math.floor((lastStart - grid.first) / step) + 1);
  return { from, to: Math.max(from, to) };
}
