import { invalid, Refusal } from '../refusal.ts';
import { DAY } from '../time/interval.ts';
import { refuseCancelled } from './change.ts';
import type { Decision } from './decision.ts';
import type { Meeting, Participant } from './meeting.ts';

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
 * @throws Refusal naming who has answered or was reminded lately, or that nobody is left
 */
export function decideNudge(
  meeting: Meeting,
  { ids, message }: { ids: readonly number[] | null; message: string },
  now: number,
): Decision {
  refuseCancelled(meeting);
  const byId = new Map(meeting.participants.map((one) => [one.id, one]));
  ids?.forEach((id, k) => {
    const one = byId.get(id);
    const field = `attendees.${k}`;
    if (!one) throw invalid([{ field, message: 'must be one of those who are invited' }]);
    if (!isSilent(one))
      throw invalid([{ field, message: `must not have answered, as ${one.name} has` }]);
    if (!isRested(one, now))
      throw invalid([
        { field, message: `must not have been reminded within a day, as ${one.name} was` },
      ]);
  });
  const asked = new Set(
    ids ??
      meeting.participants.flatMap((one) => (isSilent(one) && isRested(one, now) ? one.id : [])),
  );
  if (asked.size === 0) {
    throw new Refusal(
      'nobody-to-nudge',
      meeting.participants.some(isSilent)
        ? 'Everybody who has not answered was reminded within the last day.'
        : 'Everybody has answered.',
    );
  }
  const nudge = (one: Participant) => (asked.has(one.id) ? { ...one, nudgedAt: now } : one);
  const after = { ...meeting, participants: meeting.participants.map(nudge) };
  return {
    changes: [{ before: meeting, after }],
    facts: [
      {
        kind: 'nudged',
        meetingId: meeting.id,
        occurrence: null,
        tell: true,
        message,
        people: after.participants.filter((one) => asked.has(one.id)),
        details: { attendees: [...asked] },
      },
    ],
    notes: [],
    answer: { id: meeting.id, occurrence: null },
    undo: null,
  };
}
