import { Refusal } from '../refusal.ts';
import { DAY } from '../time/interval.ts';
import type { Decision } from './decision.ts';
import type { Meeting, Participant } from './meeting.ts';
import { toWriteAgain, writtenAgain } from './writeAgain.ts';

/** Somebody is reminded to answer once in so long at most. Milliseconds. */
const REST = DAY;

export const isSilent = (one: Pick<Participant, 'role' | 'reply'>): boolean =>
  one.role !== 'organizer' && one.reply === 'needs-action';

/** Whether somebody may be reminded to answer again. Epoch milliseconds. */
export const isRested = ({ nudgedAt }: Pick<Participant, 'nudgedAt'>, now: number): boolean =>
  nudgedAt === null || now - nudgedAt >= REST;

/**
 * Reminds those who have not answered: those named, or all who were not reminded within a day.
 * @param ids participants' own numbers; null for all
 * @throws Refusal as `writtenAgain` does: naming who has answered or was reminded lately; when nobody is left
 */
export function decideNudge(
  meeting: Meeting,
  { ids, message }: { ids: readonly number[] | null; message: string },
  now: number,
): Decision {
  const people = writtenAgain(meeting, ids, (one) => {
    if (!isSilent(one)) return `must not have answered, as ${one.name} has`;
    if (!isRested(one, now)) return `must not have been reminded within a day, as ${one.name} was`;
    return null;
  });
  if (people.length === 0) {
    throw new Refusal(
      'nobody-to-nudge',
      meeting.participants.some(isSilent)
        ? 'Everybody who has not answered was reminded within the last day.'
        : 'Everybody has answered.',
    );
  }
  const asked = people.map((one) => one.id);
  const nudged = (one: Participant) => (asked.includes(one.id) ? { ...one, nudgedAt: now } : one);
  const after = { ...meeting, participants: meeting.participants.map(nudged) };
  return toWriteAgain(meeting, after, {
    kind: 'nudged',
    ...{ meetingId: meeting.id, occurrence: null, tell: true, message },
    people: people.map(nudged),
    details: { attendees: asked },
  });
}
