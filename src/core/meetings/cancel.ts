import { withOverride } from '../recurrence/series.ts';
import { invalid } from '../refusal.ts';
import type { WallTime } from '../time/wall.ts';
import {
  doesNotRepeat,
  meansWhole,
  occurrenceAsked,
  refuseCancelled,
  type Known,
  type SeriesPart,
  type Notifying,
} from './change.ts';
import { overrideAt } from './dates.ts';
import { numbered, revised, type Decision } from './decision.ts';
import { type ChangeKind } from './meetingFacts.ts';
import { isSeries, planOf, type Meeting } from './meeting.ts';
import { splitMeeting } from './split.ts';

/**
 * Takes a meeting, or a part of a series, out of every calendar. One occurrence is kept as cancelled
 * within the series, what follows as a cancelled series of its own; all can be restored.
 * @returns null when there is nothing to do
 */
export function decideCancel(
  before: Meeting,
  command: SeriesPart & Notifying,
  known: Known,
): Decision | null {
  if (before.status === 'cancelled') return null;
  if (!isSeries(before)) {
    if (command.scope !== 'all') throw doesNotRepeat();
    return decideStatus(before, 'cancelled', command, known.now);
  }
  if (meansWhole(before, command)) return decideStatus(before, 'cancelled', command, known.now);
  const at = occurrenceAsked(before, command);
  return command.scope === 'one'
    ? decideOccurrence(before, at, true, command, known.now)
    : cancelFollowing(before, at, command, known);
}

function cancelFollowing(
  before: Meeting & { rule: string },
  at: WallTime,
  command: Notifying,
  known: Known,
): Decision {
  const { head, tail } = splitMeeting(before, at, known.newId);
  const ended = revised(before, head!, known.now);
  const cancelled: Meeting = { ...tail, status: 'cancelled', cancelledAt: known.now };
  return {
    changes: [
      { before: null, after: tail, splitFrom: { id: before.id, at } },
      { before, after: ended },
      { before: tail, after: cancelled },
    ],
    facts: [
      {
        kind: 'changed',
        meetingId: before.id,
        occurrence: null,
        tell: command.tell === 'everyone',
        message: command.message,
        details: { endsBefore: at },
      },
    ],
    notes: [],
    answer: { id: before.id, occurrence: null },
    undo: { id: before.id, version: ended.version },
  };
}

/**
 * Takes a cancellation back, of the meeting or of one occurrence.
 * @returns null when there is nothing to do
 * @throws Refusal naming an occurrence that was not cancelled
 */
export function decideRestore(
  before: Meeting,
  command: { occurrence?: WallTime | undefined } & Notifying,
  known: Known,
): Decision | null {
  const { occurrence: at } = command;
  if (at === undefined) {
    return before.status === 'confirmed'
      ? null
      : decideStatus(before, 'confirmed', command, known.now);
  }
  refuseCancelled(before);
  if (
    !isSeries(before) ||
    !before.overrides.some((one) => one.recurrenceId === at && one.cancelled)
  ) {
    throw invalid([{ field: 'occurrence', message: 'must be an occurrence that was cancelled' }]);
  }
  return decideOccurrence(before, at, false, command, known.now);
}

function decideOccurrence(
  before: Meeting & { rule: string },
  at: WallTime,
  cancelled: boolean,
  command: Notifying,
  now: number,
): Decision {
  const override = overrideAt(before, at);
  const { overrides } = withOverride(planOf(before), {
    ...override,
    cancelled,
    details: { ...override.details, cancelledAt: cancelled ? now : null },
  });
  const after = numbered(before, { ...before, overrides });
  return decided(before, after, cancelled ? 'cancelled' : 'restored', command, at);
}

function decideStatus(
  before: Meeting,
  status: Meeting['status'],
  command: Notifying,
  now: number,
): Decision {
  const cancelledAt = status === 'cancelled' ? now : null;
  const after = numbered(before, { ...before, status, cancelledAt });
  return decided(before, after, status === 'cancelled' ? 'cancelled' : 'restored', command, null);
}

const decided = (
  before: Meeting,
  after: Meeting,
  kind: ChangeKind,
  { tell, message }: Notifying,
  occurrence: WallTime | null,
): Decision => ({
  changes: [{ before, after }],
  facts: [{ kind, meetingId: before.id, occurrence, tell: tell === 'everyone', message }],
  notes: [],
  answer: { id: before.id, occurrence },
  undo: { id: before.id, version: after.version },
});
