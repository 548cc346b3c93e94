import { invalid, type FieldProblem } from '../refusal.ts';
import { refuseCancelled } from './change.ts';
import type { Decision } from './decision.ts';
import type { Meeting, Participant } from './meeting.ts';
import type { FactAmong } from './meetingFacts.ts';

/**
 * Those to whom an organizer writes once more: those named, or all whom it suits.
 * @param ids participants' own numbers; null for all
 * @param whyNot why somebody who is invited is not written to, as it stands behind their field; null where nothing is
 * @throws Refusal when it is cancelled, or naming who is not invited, or why they are not written to
 */
export function writtenAgain(
  meeting: Meeting,
  ids: readonly number[] | null,
  whyNot: (one: Participant) => string | null = () => null,
): Participant[] {
  refuseCancelled(meeting);
  const invited = meeting.participants.filter((one) => one.role !== 'organizer');
  if (ids === null) return invited.filter((one) => whyNot(one) === null);
  const problems = ids.map((id, k): FieldProblem | null => {
    const one = invited.find((known) => known.id === id);
    const message = one ? whyNot(one) : 'must be one of those who are invited';
    return message === null ? null : { field: `attendees.${k}`, message };
  });
  const [problem] = problems.filter((one) => one !== null);
  if (problem) throw invalid([problem]);
  return invited.filter((one) => ids.includes(one.id));
}

/** The decision to write to some of them: what happened, and that nothing of it is taken back. */
export const toWriteAgain = (
  before: Meeting,
  after: Meeting,
  fact: FactAmong<'nudged' | 'resent'>,
): Decision => ({
  changes: [{ before, after }],
  facts: [fact],
  notes: [],
  answer: { id: before.id, occurrence: null },
  undo: null,
});
