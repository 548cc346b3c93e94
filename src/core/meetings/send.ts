import { Refusal } from '../refusal.ts';
import { refuseCancelled } from './change.ts';
import type { Invited } from './create.ts';
import { revised, type Decision } from './decision.ts';
import type { Meeting } from './meeting.ts';
import { askedAt } from './people.ts';

/**
 * Sends a draft: those whom it names are asked from now on, and its time and places are taken.
 * @param invited whom it names, as they are now
 * @param now epoch milliseconds
 * @throws Refusal when it is cancelled, or no draft any more
 */
export function decideSend(
  before: Meeting,
  { invited, message }: { invited: readonly Invited[]; message: string },
  now: number,
): Decision {
  refuseCancelled(before);
  if (!before.draft) throw new Refusal('sent-already', 'It was sent already.');
  const asked = invited.map((one) => askedAt(one, now));
  const participants = [...before.participants, ...asked];
  const after = revised(before, { ...before, draft: null, participants }, now);
  return {
    changes: [{ before, after: { ...after, minReplySequence: after.sequence } }],
    facts: [{ kind: 'invited', meetingId: before.id, occurrence: null, tell: true, message }],
    notes: [],
    answer: { id: before.id, occurrence: null },
    undo: { id: before.id, version: after.version },
  };
}
