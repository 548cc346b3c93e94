import { correspondence } from '../recurrence/series.ts';
import { Refusal } from '../refusal.ts';
import { same } from '../same.ts';
import type { WallTime } from '../time/wall.ts';
import { overrideAt } from './dates.ts';
import { numbered, type Decision, type MeetingChange } from './decision.ts';
import { type ChangeKind } from './meetingFacts.ts';
import { factsOfChange, participantKey, type NotifyScope } from './people.ts';
import type { Edit } from '../edits.ts';
import { dateIn, namesOf, takeBack, underPresentNames } from './edits.ts';
import { isSeries, occurrenceOf, planOf, type Answer, type Meeting } from './meeting.ts';
import { splitMeeting } from './split.ts';

/** What a change left behind, so that it can be taken back. */
export interface Revision {
  /** The version that the change made. */
  version: number;
  edits: Edit[];
  /** The edits of each later change that stands, in order. */
  later: Edit[][];
  /** The part that it split off, with the answers that part began with, by participant. */
  splitOff: { id: string; at: WallTime; answers: Record<string, Answer> } | null;
}

/** The answers of a meeting's participants to all of it, by `participantKey`. */
export const answersOf = (meeting: Meeting): Record<string, Answer> =>
  Object.fromEntries(
    meeting.participants.map((one) => {
      const { reply, note, askedAt, repliedAt, stamp } = one;
      return [participantKey(one), { reply, note, askedAt, repliedAt, stamp }];
    }),
  );

/**
 * Takes a change back: what it touched becomes what it was, and what others did since stays.
 * @param tail the part that the change split off, as it is now
 * @param happensAt recurrence ids of the tail's occurrences that are laid out
 * @throws Refusal when everything it touched has been changed since, or a part it split off was
 */
export function decideUndo(
  present: Meeting,
  revision: Revision,
  command: { tell: NotifyScope },
  tail: { meeting: Meeting; changedSince: boolean; laidOut: WallTime[] } | null,
): Decision {
  if (tail?.changedSince) {
    throw changedSince(
      `What follows has been changed since; take that back first, or change “${tail.meeting.title}” itself.`,
    );
  }
  const edits = underPresentNames(revision.edits, revision.later);
  const { meeting: taken, left } = takeBack(present, edits, revision.later);
  const restored = taken.draft ? askedByNobody(taken) : taken;
  const own = left.filter((edit) => !isAnswer(edit));
  const touched = edits.filter((edit) => !isAnswer(edit));
  if (own.length > 0 && (own.length === touched.length || revision.splitOff)) {
    throw changedSince(`The ${namesOf(own).join(' and the ')} has been changed since and stays.`);
  }
  const tell = command.tell === 'everyone';
  const merged = tail && revision.splitOff ? mergedBack(restored, revision.splitOff, tail) : null;
  const whole = withRepliesFrom(present, numbered(present, merged?.whole ?? restored));
  const changes: MeetingChange[] = [{ before: present, after: whole }];
  const facts = factsOfChange(
    { before: present, after: whole },
    {
      kind: kindOf(present, whole),
      meetingId: present.id,
      occurrence: null,
      tell,
      message: '',
      details: { undone: revision.version },
    },
    command.tell,
  );
  if (tail && merged) {
    const gone: Meeting = { ...tail.meeting, status: 'cancelled' };
    changes.unshift({
      before: gone,
      after: null,
      mergedInto: { id: present.id, names: merged.names },
    });
    if (tail.meeting.status === 'confirmed') {
      facts.unshift({
        kind: 'cancelled',
        meetingId: tail.meeting.id,
        occurrence: null,
        tell,
        message: '',
      });
    }
  }
  return {
    changes,
    facts,
    notes: own.length ? [`Changed again since, and left alone: ${namesOf(own).join(', ')}.`] : [],
    answer: { id: present.id, occurrence: null },
    undo: null,
  };
}

/**
 * The dates that taking a change of places back would give other places, as they are now: null for what
 * happens once. None where all of it has been changed since.
 */
export function datesGoingBack(present: Meeting, revision: Revision): (WallTime | null)[] {
  const edits = underPresentNames(revision.edits, revision.later);
  const { left } = takeBack(present, edits, revision.later);
  const stays = new Set(left.map(({ path }) => path));
  const going = edits.filter((edit) => !isAnswer(edit) && !stays.has(edit.path));
  return [...new Set(going.map(({ path }) => dateIn(path) ?? null))];
}

/**
 * The same change without what it did to dates that have begun by now: what is past stays where it was.
 * @param now epoch milliseconds
 */
export function aheadOnly(present: Meeting, revision: Revision, now: number): Revision {
  const hasBegun = ({ path }: Edit): boolean => {
    const at = dateIn(path) ?? null;
    if (at === null && isSeries(present)) return false;
    return occurrenceOf(present, at).start <= now;
  };
  return { ...revision, edits: revision.edits.filter((edit) => !hasBegun(edit)) };
}

/** A meeting that is a draft again: whoever was asked since it was sent is among those it will ask. */
function askedByNobody(meeting: Meeting): Meeting {
  const { draft, participants } = meeting;
  const named = new Set(draft!.invited.map(participantKey));
  const since = participants.flatMap(({ personId, name, email, role }) =>
    role === 'organizer' || named.has(participantKey({ personId, email }))
      ? []
      : [{ personId, name, email, role }],
  );
  return {
    ...meeting,
    draft: { ...draft!, invited: [...draft!.invited, ...since] },
    participants: participants.filter((one) => one.role === 'organizer'),
  };
}

/** Answers follow from what people are asked. */
const isAnswer = ({ path }: Edit) => path.startsWith('answer/');

const changedSince = (sentence: string) => new Refusal('changed-since', sentence);

function kindOf(present: Meeting, restored: Meeting): ChangeKind {
  if (present.status === restored.status) return 'changed';
  return restored.status === 'confirmed' ? 'restored' : 'cancelled';
}

/** Answers to the times that were taken back are outdated from now on. */
function withRepliesFrom(present: Meeting, after: Meeting): Meeting {
  const shape = ({ timing, rule }: Meeting) => [timing, rule];
  if (!same(shape(present), shape(after))) {
    const overrides = after.overrides.map((one) => ({
      ...one,
      details: { ...one.details, minReplySequence: null },
    }));
    return { ...after, overrides, minReplySequence: after.sequence };
  }
  const timingAt = (meeting: Meeting, at: WallTime) =>
    meeting.overrides.find((one) => one.recurrenceId === at)?.timing;
  const dates = new Set([...present.overrides, ...after.overrides].map((one) => one.recurrenceId));
  const moved = [...dates].filter((at) => !same(timingAt(present, at), timingAt(after, at)));
  return moved.reduce((meeting, at) => {
    const override = overrideAt(meeting, at);
    const details = { ...override.details, minReplySequence: after.sequence };
    const others = meeting.overrides.filter((one) => one.recurrenceId !== at);
    return { ...meeting, overrides: [...others, { ...override, details }] };
  }, after);
}

/** The whole again, with what people answered to its later part since that was apart. */
function mergedBack(
  restored: Meeting,
  { at, answers }: NonNullable<Revision['splitOff']>,
  { meeting: tail, laidOut }: { meeting: Meeting; laidOut: WallTime[] },
): { whole: Meeting; names: ReadonlyMap<WallTime, WallTime> } {
  if (!isSeries(restored)) return { whole: restored, names: new Map() };
  const original = planOf(splitMeeting(restored, at).tail);
  const names = isSeries(tail)
    ? correspondence(planOf(tail), original, laidOut)
    : new Map([[tail.timing.startsAt, at]]);
  const inTail = new Map(tail.participants.map((one) => [participantKey(one), one]));
  const participants = restored.participants.map((one) => {
    const later = inTail.get(participantKey(one));
    if (!later || one.role === 'organizer') return one;
    const began = answers[participantKey(one)];
    const occurrences = { ...one.occurrences };
    const answeredSince = !same(began, answerTo(later));
    for (const name of laidOut) {
      const back = names.get(name);
      if (!back) continue;
      const alone = later.occurrences[name];
      // Those whom the change itself asked again, and who did not answer, stay as they were.
      if (alone && alone.reply !== 'needs-action') occurrences[back] = answerTo(alone);
      else if (answeredSince && !alone) occurrences[back] = answerTo(later);
    }
    return { ...one, occurrences };
  });
  return { whole: { ...restored, participants }, names };
}

const answerTo = ({ reply, note, askedAt, repliedAt, stamp }: Answer): Answer => ({
  reply,
  note,
  askedAt,
  repliedAt,
  stamp,
});
