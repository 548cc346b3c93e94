import { slotStart } from '../availability/slots.ts';
import { MINUTE, type Interval } from '../time/interval.ts';
import { overlapsAny } from '../time/spans.ts';
import { conceded, type BlockerQuestion } from './blockers.ts';
import { isTaken, type PreparedMember } from './lineUp.ts';
import { openings, type Opening } from './openings.ts';
import { NOT_ASKED, survey, type Survey } from './survey.ts';
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
  question: BlockerQuestion,
  { keep = [], most = 4 }: { keep?: readonly number[]; most?: number } = {},
): AbsentSets {
  const { members, wishes, surroundings } = question;
  const now = survey(members, wishes, surroundings);
  if (now.candidates.length > 0 || now.prepared.length === 0) return { sets: [], complete: true };
  const { slots, blockersAt, fewestLeft } = blockedStarts(now, wishes, keep);
  const sizeOf = (slot: number) => blockersAt.get(slot)!.length;
  const smallest = slots.length > 0 ? sizeOf(slots[0]!) : 0;
  const sets = new Map<string, { positions: number[]; slots: number[] }>();
  let isCut = fewestLeft === smallest;
  for (const slot of slots) {
    const positions = blockersAt.get(slot)!;
    if (positions.length > smallest) break;
    const key = positions.join();
    const known = sets.get(key);
    if (known) known.slots.push(slot);
    else if (sets.size < MOST_SETS) sets.set(key, { positions, slots: [slot] });
    else isCut = true;
  }
  const ranked = [...sets.values()]
    .sort((a, b) => b.slots.length - a.slots.length || a.slots[0]! - b.slots[0]!)
    .slice(0, most);
  return {
    complete: !isCut,
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

/** Which blockers stand at the starts that the fewest block, of those at which all who must can come. */
function blockedStarts(now: Survey, wishes: Wishes, keep: readonly number[]) {
  const blockersAt = new Map<number, number[]>();
  const length = wishes.lengthMinutes * MINUTE;
  const byId = new Map(now.prepared.map((one) => [one.id, one]));
  // A start that somebody blocks who cannot be left out opens for nobody's absence.
  const must = now.blockers.flatMap((one) =>
    one.kind === 'member' && keep.includes(one.id) ? [byId.get(one.id)!] : [],
  );
  const order: number[] = [];
  for (let slot = now.from; slot < now.to; slot++) {
    if (now.blocked[slot] === NOT_ASKED) continue;
    const start = slotStart(now.grid, slot);
    if (!must.some((member) => isAbsent(member, { start, end: start + length }))) order.push(slot);
  }
  order.sort((a, b) => now.blocked[a]! - now.blocked[b]! || a - b);
  const looked = order.slice(0, MOST_STARTS);
  now.blockers.forEach((blocker, position) => {
    for (const slot of looked) {
      const start = slotStart(now.grid, slot);
      const blocks =
        blocker.kind === 'site'
          ? now.choices.find(({ need }) => need.siteId === blocker.siteId)!.best[slot] === -1
          : isAbsent(byId.get(blocker.id)!, { start, end: start + length });
      if (!blocks) continue;
      blockersAt.set(slot, [...(blockersAt.get(slot) ?? []), position]);
    }
  });
  const next = order[MOST_STARTS];
  return {
    slots: looked,
    blockersAt,
    /** How many block the first start that was not looked at; null where all were. */
    fewestLeft: next === undefined ? null : now.blocked[next]!,
  };
}

function bestWithout(question: BlockerQuestion, blockers: Survey['blockers']): Opening | null {
  const without = blockers.reduce<BlockerQuestion>(
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
  isTaken(member, meeting) || overlapsAny(member.absurd, meeting);
