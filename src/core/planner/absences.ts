import { slotStart } from '../availability/slots.ts';
import { MINUTE, type Interval } from '../time/interval.ts';
import { overlapsAny } from '../time/spans.ts';
import { conceded, type Question } from './blockers.ts';
import type { PreparedMember } from './lineUp.ts';
import { openings, type Opening } from './openings.ts';
import { survey, type Survey } from './survey.ts';
import type { Wishes } from './wishes.ts';

/** Members whose absence together opens something, and how many starts that opens. */
export interface AbsentSet {
  blockers: Survey['blockers'];
  gains: number;
  best: Opening | null;
}

export interface AbsentSets {
  sets: AbsentSet[];
  /** False where the search stopped before it had looked at every start. */
  complete: boolean;
}

/** Starts looked at, and sets told apart, before the search stops. */
const MOST_STARTS = 4000;
const MOST_SETS = 400;

/**
 * Where nothing is possible: the smallest sets of needed members and rooms without which something
 * is. A start opens when all that block it are left out, so each start's blockers are a set that
 * hits; the smallest are those of the starts that the fewest block.
 */
export function smallestAbsences(
  question: Question,
  { keep = [], most = 4 }: { keep?: readonly number[]; most?: number } = {},
): AbsentSets {
  const { members, wishes, surroundings } = question;
  const now = survey(members, wishes, surroundings);
  if (now.candidates.length > 0 || now.prepared.length === 0) return { sets: [], complete: true };
  const { slots, blockersAt } = blockedStarts(now, wishes, keep);
  const sets = new Map<string, { positions: number[]; slots: number[] }>();
  let complete = slots.length < MOST_STARTS;
  for (const slot of slots) {
    const positions = blockersAt.get(slot)!;
    const key = positions.join();
    const known = sets.get(key);
    if (known) known.slots.push(slot);
    else if (sets.size < MOST_SETS) sets.set(key, { positions, slots: [slot] });
    else complete = false;
  }
  const smallest = Math.min(...[...sets.values()].map((one) => one.positions.length));
  const ranked = [...sets.values()]
    .filter((one) => one.positions.length === smallest)
    .sort((a, b) => b.slots.length - a.slots.length || a.slots[0]! - b.slots[0]!)
    .slice(0, most);
  return {
    complete,
    sets: ranked.map(({ positions, slots: opened }) => ({
      blockers: positions.map((k) => now.blockers[k]!),
      gains: opened.length,
      best: bestWithout(
        question,
        positions.map((k) => now.blockers[k]!),
      ),
    })),
  };
}

/** Which blockers stand at each start that the fewest block, without those that must be kept. */
function blockedStarts(now: Survey, wishes: Wishes, keep: readonly number[]) {
  const blockersAt = new Map<number, number[]>();
  const kept = new Set<number>();
  const length = wishes.lengthMinutes * MINUTE;
  const byId = new Map(now.prepared.map((one) => [one.id, one]));
  const order = Array.from({ length: now.to - now.from }, (_, k) => now.from + k)
    .sort((a, b) => now.blocked[a]! - now.blocked[b]! || a - b)
    .slice(0, MOST_STARTS);
  now.blockers.forEach((blocker, position) => {
    for (const slot of order) {
      const start = slotStart(now.grid, slot);
      const blocks =
        blocker.kind === 'site'
          ? now.choices.find(({ need }) => need.siteId === blocker.siteId)!.best[slot] === -1
          : isAbsent(byId.get(blocker.id)!, { start, end: start + length });
      if (!blocks) continue;
      if (blocker.kind === 'member' && keep.includes(blocker.id)) kept.add(slot);
      blockersAt.set(slot, [...(blockersAt.get(slot) ?? []), position]);
    }
  });
  // A start that somebody blocks who cannot be left out opens for nobody's absence.
  const slots = order.filter((slot) => !kept.has(slot)).sort((a, b) => a - b);
  return { slots, blockersAt };
}

function bestWithout(question: Question, blockers: Survey['blockers']): Opening | null {
  const without = blockers.reduce<Question>(
    (before, one) =>
      conceded(
        before,
        one.kind === 'member'
          ? { kind: 'setAside', memberId: one.id }
          : { kind: 'noRoom', siteId: one.siteId },
      ),
    question,
  );
  const { members, wishes, surroundings } = without;
  return openings(members, { ...wishes, limit: 1 }, surroundings).best[0] ?? null;
}

const isAbsent = (member: PreparedMember, meeting: Interval): boolean =>
  overlapsAny(member.taken, meeting) || overlapsAny(member.absurd, meeting);
