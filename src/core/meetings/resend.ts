import { Refusal } from '../refusal.ts';
import type { Decision } from './decision.ts';
import type { Meeting } from './meeting.ts';
import { toWriteAgain, writtenAgain } from './writeAgain.ts';

/**
 * Sends the invitation as it is now once more, to those named or to all; nobody is asked anew by it.
 * @param ids participants' own numbers; null for all
 * @throws Refusal as `writtenAgain` does, and when nobody is invited
 */
export function decideResend(
  meeting: Meeting,
  { ids, message }: { ids: readonly number[] | null; message: string },
): Decision {
  const people = writtenAgain(meeting, ids);
  if (people.length === 0) throw new Refusal('nobody-to-tell', 'Nobody is invited to it.');
  const about = { meetingId: meeting.id, occurrence: null, tell: true, message, people };
  return toWriteAgain(meeting, meeting, { kind: 'resent', ...about });
}
