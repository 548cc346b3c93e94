import type {
  MeetingFact,
  MeetingFactDetails,
  MeetingFactKind,
} from '../../../core/meetings/meetingFacts.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import type { Actor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import { commit } from '../commit.ts';
import type { StoredMeeting } from '../store/read.ts';

/** Kinds of what is put to a meeting and changes nothing of itself. */
type NoteKind = Extract<
  MeetingFactKind,
  | 'attached'
  | 'detached'
  | 'commented'
  | 'place-agreed'
  | 'no-show-soon'
  | 'place-offered'
  | 'place-given'
  | 'checked-in'
  | 'checked-out'
>;

/**
 * Commits that something was put to a meeting, or taken from it, which changes nothing of itself.
 * @param quoted words that are told and not kept with what happened
 */
export async function noteOf<Kind extends NoteKind>(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  meeting: StoredMeeting,
  kind: Kind,
  details: MeetingFactDetails[Kind],
  {
    quoted = '',
    message = '',
    occurrence = null,
  }: { quoted?: string; message?: string; occurrence?: WallTime | null } = {},
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
          occurrence,
          tell: false,
          message,
          quoted,
          details,
        } as MeetingFact,
      ],
      notes: [],
      answer: { id: meeting.id, occurrence: null },
      undo: null,
    },
    { expandedUntil: new Map([[meeting.id, meeting.expandedUntil]]) },
  );
}
