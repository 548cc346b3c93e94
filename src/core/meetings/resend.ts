import { invalid, Refusal } from '../refusal.ts';
import { refuseCancelled } from './change.ts';
import type { Decision } from './decision.ts';
import type { Meeting } from './meeting.ts';

/**
 * Sends the invitation as it is now once more, to those named or to all; nobody is asked anew by it.
 * @param ids participants' own numbers; null for all
 * @throws Refusal when it is cancelled, or naming somebody who is not invited
 */
export function decideResend(
  meeting: Meeting,
  { ids, message }: { ids: readonly number[] | null; message: string },
): Decision {
  refuseCancelled(meeting);
  const invited = meeting.participants.filter((one) => one.role !== 'organizer');
  ids?.forEach((id, k) => {
    if (!invited.some((one) => one.id === id))
      throw invalid([{ field: `attendees.${k}`, message: 'must be one of those who are invited' }]);
  });
  const people = invited.filter((one) => ids === null || ids.includes(one.id));
  if (people.length === 0) throw new Refusal('nobody-to-tell', 'Nobody is invited to it.');
  return {
    changes: [{ before: meeting, after: meeting }],
    facts: [
      { kind: 'resent', meetingId: meeting.id, occurrence: null, tell: true, message, people },
    ],
    notes: [],
    answer: { id: meeting.id, occurrence: null },
    undo: null,
  };
}
