import type { FactKind } from '../../../core/meetings/decision.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import { commit } from '../commit.ts';
import type { StoredMeeting } from '../store/read.ts';

/**
 * Commits that something was put to a meeting, or taken from it, which changes nothing of itself.
 * @param quoted words that are told and not kept with what happened
 */
export async function noteOf(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  meeting: StoredMeeting,
  kind: Extract<FactKind, 'attached' | 'detached' | 'commented'>,
  details: Record<string, unknown>,
  quoted = '',
): Promise<void> {
  await commit(
    tx,
    platform,
    actor,
    {
      changes: [{ before: meeting, after: meeting }],
      facts: [
        {
          kind,
          meetingId: meeting.id,
          occurrence: null,
          tell: false,
          message: '',
          quoted,
          details,
        },
      ],
      notes: [],
      answer: { id: meeting.id, occurrence: null },
      undo: null,
    },
    { keptUntil: new Map([[meeting.id, meeting.keptUntil]]) },
  );
}
