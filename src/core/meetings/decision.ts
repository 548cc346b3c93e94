import { askAgain, isNewRevision } from '../icalendar/sequence.ts';
import type { Rename } from '../recurrence/series.ts';
import type { Interval } from '../time/interval.ts';
import type { WallTime } from '../time/wall.ts';
import type { MeetingFact } from './meetingFacts.ts';
import { isSeries, occurrenceOf, type Answer, type Meeting, type Participant } from './meeting.ts';

/** One meeting before and after; null where there is none. */
export interface MeetingChange {
  before: Meeting | null;
  after: Meeting | null;
  /**
   * Set where this meeting goes on with a part of another: from this occurrence on, what hangs on
   * the other's occurrences belongs to this one.
   */
  splitFrom?: { id: string; at: WallTime };
  /** Set where a part that was split off goes back into the meeting it came from. */
  mergedInto?: { id: string; names: ReadonlyMap<WallTime, WallTime> };
  /** How occurrences that were named otherwise before are named now; without it all keep their names. */
  renamed?: Rename | undefined;
  /**
   * Set where those who take part no more have left at this instant: what happened until then keeps them. Epoch
   * milliseconds.
   */
  leftAt?: number;
}

/** What a command comes to: nothing of it is done before it is committed. */
export interface Decision {
  /** In the order in which they are to be written. */
  changes: MeetingChange[];
  facts: MeetingFact[];
  /** What had to be decided on the way, in sentences. */
  notes: string[];
  /** The meeting to answer with, and the occurrence of it. */
  answer: { id: string; occurrence: WallTime | null };
  /** The meeting whose revision takes all of it back. */
  undo: { id: string; version: number } | null;
  /** Set where each meeting's change is taken back by itself. */
  areUndoneApart?: true;
  /** Set where it is done for those whose it is: a steward who does it agrees to no place by that. */
  agreesToNothing?: true;
}

const asked = (now: number): Answer => ({
  reply: 'needs-action',
  note: '',
  askedAt: now,
  repliedAt: null,
  stamp: null,
});

/** Asked anew for another time; whoever asked for just that one has said that it suits them. */
function askedFor(
  { proposals }: Participant,
  { start, end }: Interval,
  at: WallTime | null,
  now: number,
): Answer {
  const isTheirs = proposals.some(
    (one) => one.occurrence === at && one.start === start && one.end === end,
  );
  return isTheirs ? { ...asked(now), reply: 'accepted', repliedAt: now } : asked(now);
}

/**
 * The next version of a meeting: SEQUENCE follows from what changed, and whoever answered other
 * times is asked again.
 * @param now epoch milliseconds
 */
export function revised(before: Meeting, draft: Meeting, now: number): Meeting {
  const after = numbered(before, draft);
  const again = askAgain(before, after);
  if (again.whole) {
    const time = isSeries(after) ? null : occurrenceOf(after, null);
    const answer = (one: Participant) => (time ? askedFor(one, time, null, now) : asked(now));
    return {
      ...after,
      minReplySequence: after.sequence,
      overrides: after.overrides.map((one) => ({
        ...one,
        details: { ...one.details, minReplySequence: null },
      })),
      participants: after.participants.map((one) =>
        one.role === 'organizer'
          ? one
          : { ...one, ...answer(one), nudgedAt: null, proposals: [], occurrences: {} },
      ),
    };
  }
  if (again.occurrences.length === 0) return after;
  const moved = new Set(again.occurrences);
  const ask = (one: Participant): Participant =>
    one.role === 'organizer'
      ? one
      : {
          ...one,
          proposals: one.proposals.filter(({ occurrence }) => !moved.has(occurrence ?? '')),
          occurrences: {
            ...one.occurrences,
            ...Object.fromEntries(
              again.occurrences.map((at) => [at, askedFor(one, occurrenceOf(after, at), at, now)]),
            ),
          },
        };
  return {
    ...after,
    participants: after.participants.map(ask),
    overrides: after.overrides.map((one) =>
      moved.has(one.recurrenceId)
        ? { ...one, details: { ...one.details, minReplySequence: after.sequence } }
        : one,
    ),
  };
}

/** The draft with the numbers of its next version. */
export const numbered = (before: Meeting, draft: Meeting): Meeting => ({
  ...draft,
  version: before.version + 1,
  sequence: before.sequence + Number(isNewRevision(before, draft)),
});

/** Whether a change is one of time, which a letter says first. */
export function isMoved(before: Meeting, after: Meeting): boolean {
  const again = askAgain(before, after);
  return again.whole || again.occurrences.length > 0;
}
