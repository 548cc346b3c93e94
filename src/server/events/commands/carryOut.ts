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
  held?: HeldResources,
): Promise<Done> {
  if (!decision) return { id: before.id, meeting: before, occurrence: null, notes: [], undo: null };
  const keptUntil = new Map([[before.id, before.keptUntil]]);
  const { meetings } = await commit(tx, platform, actor, decision, { held, keptUntil });
  const { answer, notes, undo } = decision;
  const meeting = { ...before, ...meetings.get(answer.id) };
  return { ...answer, meeting, notes, undo };
}
