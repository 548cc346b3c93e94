import { splitSeries } from '../recurrence/series.ts';
import type { WallTime } from '../time/wall.ts';
import { planOf, withPlan, type Meeting, type Participant } from './meeting.ts';

const NO_ID = { id: '', uid: '' };

/** A participant with those answers to single occurrences that lie on one side of a cut. */
const withAnswers = (participant: Participant, keeps: (at: WallTime) => boolean): Participant => ({
  ...participant,
  occurrences: Object.fromEntries(
    Object.entries(participant.occurrences).filter(([at]) => keeps(at)),
  ),
});

/**
 * Cuts a series in two before the occurrence `at`. What follows is a meeting of its own, with a UID
 * of its own, that begins as the series was: same people and answers, same places, same words.
 * @returns head null when `at` is the first occurrence
 */
export function splitMeeting(
  meeting: Meeting & { rule: string },
  at: WallTime,
  { id, uid } = NO_ID,
): { head: Meeting | null; tail: Meeting & { rule: string } } {
  const { head, tail } = splitSeries(planOf(meeting), at);
  const people = (keeps: (wall: WallTime) => boolean) =>
    meeting.participants.map((one) => withAnswers(one, keeps));
  return {
    head: head && {
      ...withPlan(meeting, head),
      participants: people((wall) => wall < at),
    },
    tail: {
      ...withPlan(meeting, tail),
      rule: tail.rule,
      id,
      uid,
      version: 1,
      sequence: 0,
      minReplySequence: 0,
      participants: people((wall) => wall >= at).map((one) => ({ ...one, id: 0 })),
    },
  };
}
