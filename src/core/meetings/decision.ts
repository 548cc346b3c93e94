import { askAgain, isNewRevision } from '../icalendar/sequence.ts';
import type { Rename } from '../recurrence/series.ts';
import type { WallTime } from '../time/wall.ts';
import type { Answer, Meeting, Participant } from './meeting.ts';

/**
 * What happened, for those who tell of it: letters, notices, the log. A fact is about a meeting as
 * it is afterwards, or, once it is gone, as it last was.
 */
export const FACT_KINDS = [
  'drafted',
  'invited',
  'uninvited',
  'changed',
  'moved',
  'cancelled',
  'restored',
  'replied',
  'nudged',
  'resent',
  'proposed',
  'proposal-declined',
  'commented',
  'attached',
  'detached',
  /** A steward has to agree to a place. */
  'place-asked',
  'place-agreed',
  /** A place was given up: a steward does not agree, or did not in time; nobody came. */
  'place-refused',
  'place-expired',
  /** A place goes out of use: something has another, or none. */
  'place-moved',
  'place-closed',
  'no-show',
  /** It will be given up unless somebody checks in. */
  'no-show-soon',
  'checked-in',
  'checked-out',
] as const;
export type FactKind = (typeof FACT_KINDS)[number];

export interface Fact {
  kind: FactKind;
  meetingId: string;
  /** The one occurrence it is about; null for all of it. */
  occurrence: WallTime | null;
  /** Whether those invited are written to. */
  tell: boolean;
  /** Whom alone it concerns, as they were when it happened; everybody who takes part where left out. */
  people?: Participant[];
  /** Words of whoever did it, for those who are told. */
  message: string;
  /** Words that are told, and not kept with what happened. */
  quoted?: string;
  /** More that is worth keeping in the log. */
  details?: Record<string, unknown>;
}

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
}

/** What a command comes to: nothing of it is done before it is committed. */
export interface Decision {
  /** In the order in which they are to be written. */
  changes: MeetingChange[];
  facts: Fact[];
  /** What had to be decided on the way, in sentences. */
  notes: string[];
  /** The meeting to answer with, and the occurrence of it. */
  answer: { id: string; occurrence: WallTime | null };
  /** The meeting whose revision takes all of it back. */
  undo: { id: string; version: number } | null;
  /** Set where each meeting's change is taken back by itself. */
  areUndoneApart?: true;
}

const asked = (now: number): Answer => ({
  reply: 'needs-action',
  note: '',
  askedAt: now,
  repliedAt: null,
  stamp: null,
});

/**
 * The next version of a meeting: SEQUENCE follows from what changed, and whoever answered other
 * times is asked again.
 * @param now epoch milliseconds
 */
export function revised(before: Meeting, draft: Meeting, now: number): Meeting {
  const after = numbered(before, draft);
  const again = askAgain(before, after);
  if (again.whole) {
    return {
      ...after,
      repliesFrom: after.sequence,
      overrides: after.overrides.map((one) => ({
        ...one,
        details: { ...one.details, repliesFrom: null },
      })),
      participants: after.participants.map((one) =>
        one.role === 'organizer'
          ? one
          : { ...one, ...asked(now), nudgedAt: null, proposals: [], occurrences: {} },
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
            ...Object.fromEntries(again.occurrences.map((at) => [at, asked(now)])),
          },
        };
  return {
    ...after,
    participants: after.participants.map(ask),
    overrides: after.overrides.map((one) =>
      moved.has(one.recurrenceId)
        ? { ...one, details: { ...one.details, repliesFrom: after.sequence } }
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
