import type { Decision } from '../../../core/meetings/decision.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import type { Actor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import type { HeldResources } from '../../reservations/index.ts';
import { commit } from '../commit.ts';
import type { StoredMeeting } from '../store/read.ts';

/** What a command left, for whoever answers. */
export interface Done {
  id: string;
  /** The meeting as it is now. */
  meeting: StoredMeeting;
  occurrence: WallTime | null;
  /** What had to be decided on the way, in sentences. */
  notes: string[];
  /** Where the change is taken back. */
  undo: { id: string; version: number } | null;
}

/** Commits what a command decided about a meeting; null is nothing. */
export async function carryOut(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  before: StoredMeeting,
  decision: Decision | null,
  {
    fieldOf,
    held,
  }: { fieldOf?: (resourceId: number) => string; held?: HeldResources | undefined } = {},
): Promise<Done> {
  if (!decision) return { id: before.id, meeting: before, occurrence: null, notes: [], undo: null };
  const expandedUntil = new Map([[before.id, before.expandedUntil]]);
  const { meetings } = await commit(tx, platform, actor, decision, {
    fieldOf,
    held,
    expandedUntil,
  });
  const { answer, notes, undo } = decision;
  const meeting = { ...before, ...meetings.get(answer.id) };
  return { ...answer, meeting, notes, undo };
}

/**
 * Commits what was decided about several meetings, in the order given: all of it, or nothing.
 * @param meetings all of them, held
 * @param areUndoneApart whether each is taken back by itself
 */
export async function carryOutTogether(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  meetings: ReadonlyMap<string, StoredMeeting>,
  decided: readonly Pick<Decision, 'changes' | 'facts'>[],
  {
    held,
    areUndoneApart,
    agreesToNothing,
  }: Pick<Decision, 'areUndoneApart' | 'agreesToNothing'> & {
    held?: HeldResources;
  } = {},
): Promise<void> {
  const changes = decided.flatMap((one) => one.changes);
  const [first] = changes;
  if (!first) return;
  const decision: Decision = {
    changes,
    facts: decided.flatMap((one) => one.facts),
    notes: [],
    answer: { id: (first.after ?? first.before)!.id, occurrence: null },
    undo: null,
    ...(areUndoneApart && { areUndoneApart }),
    ...(agreesToNothing && { agreesToNothing }),
  };
  const expandedUntil = new Map([...meetings].map(([id, one]) => [id, one.expandedUntil]));
  await commit(tx, platform, actor, decision, { held, expandedUntil });
}
