import type { InviteeRights } from './rights.ts';
import { firstOccurrence } from '../recurrence/expand.ts';
import { parseRule } from '../recurrence/rule.ts';
import {
  moveSeries,
  reshapeSeries,
  withOverride,
  type EventTiming,
  type Rename,
} from '../recurrence/series.ts';
import { invalid, Refusal } from '../refusal.ts';
import { formatDay } from '../time/format.ts';
import { addDays, daysBetween, type WallTime } from '../time/wall.ts';
import { happensAt, overrideAt, withChoices, type DateChoice } from './dates.ts';
import { isMoved, revised, type Decision, type MeetingChange } from './decision.ts';
import { type ChangeKind, type ChangeFact } from './meetingFacts.ts';
import type { Invited } from './create.ts';
import { isSeries, planOf, withPlan, type Meeting } from './meeting.ts';
import { fieldOf, type FieldName, type MeetingFields } from './fields.ts';
import { factsOfChange, withInvited, type NotifyScope } from './people.ts';
import { splitMeeting } from './split.ts';
import {
  beginSeries,
  namingField,
  readTiming,
  type AskedTimes,
  type ReadTiming,
} from './timing.ts';

/** Which part of a series is meant; `occurrence` names the one, by its place in the rule. */
export interface SeriesPart {
  scope: 'one' | 'following' | 'all';
  occurrence?: WallTime | undefined;
}

/** Whether those invited are told, and with which words. */
export interface Notifying {
  tell: NotifyScope;
  message: string;
}

export interface ChangeCommand extends SeriesPart, Notifying {
  /** Those given only; HTML already cleaned. */
  fields: Partial<MeetingFields>;
  rights?: InviteeRights | undefined;
  /** Of the named occurrence, the others following; without one, of the first. */
  times?: AskedTimes | undefined;
  /** A rule makes it a series; null makes a series a single event. */
  repeats?: { rule: string; except: WallTime[] } | null | undefined;
  dates: readonly DateChoice[];
  resources?: number[] | undefined;
  /** Exactly those who are invited from now on, looked up. */
  invited?: readonly Invited[] | undefined;
  /** Whether a draft holds its time; of drafts alone. */
  holds?: boolean | undefined;
}

/** What a command cannot know by itself. */
export interface Known {
  /** Epoch milliseconds. */
  now: number;
  /** For a part that becomes a meeting of its own. */
  newId: { id: string; uid: string };
}

type SeriesMeeting = Meeting & { rule: string };

/**
 * Changes what happens once, or one occurrence, one and those that follow, or all of a series.
 * @throws Refusal naming the field that is wrong
 */
export function decideChange(before: Meeting, command: ChangeCommand, known: Known): Decision {
  refuseCancelled(before);
  if (command.holds !== undefined && !before.draft)
    throw invalid([{ field: 'holds', message: 'can be given for a draft only' }]);
  if (!isSeries(before)) {
    if (command.scope !== 'all' || command.occurrence !== undefined) throw doesNotRepeat();
    return changeAll(before, drafted(before, command, known.now), command, known);
  }
  if (command.scope === 'one') return changeOne(before, command, known);
  if (meansWhole(before, command)) {
    return changeAll(before, drafted(before, command, known.now), command, known);
  }
  return changeFollowing(before, command, known);
}

/** @throws Refusal when the meeting is cancelled */
export function refuseCancelled(meeting: Meeting): void {
  if (meeting.status === 'cancelled') {
    throw new Refusal('cancelled', 'This event is cancelled; restore it before changing it.');
  }
}

export const doesNotRepeat = (): Refusal =>
  invalid([{ field: 'scope', message: 'must be "all": this event does not repeat' }]);

/** Whether a part of a series is all of it. */
export const meansWhole = (meeting: SeriesMeeting, part: SeriesPart): boolean =>
  part.scope === 'all' ||
  (part.scope === 'following' &&
    splitMeeting(meeting, occurrenceAsked(meeting, part)).head === null);

/** @throws Refusal when no occurrence is named, or the series does not happen then */
export function occurrenceAsked(meeting: SeriesMeeting, { occurrence }: SeriesPart): WallTime {
  if (occurrence === undefined) {
    throw invalid([{ field: 'occurrence', message: 'must be given unless "scope" is "all"' }]);
  }
  if (!happensAt(planOf(meeting), occurrence)) {
    throw invalid([{ field: 'occurrence', message: 'must be an occurrence of the series' }]);
  }
  return occurrence;
}

const fact = (
  kind: ChangeKind,
  meetingId: string,
  { tell, message }: Notifying,
  occurrence: WallTime | null = null,
): ChangeFact => ({ kind, meetingId, occurrence, tell: tell === 'everyone', message });

/** A draft of what a meeting becomes, with what had to be decided on the way. */
interface Draft {
  meeting: Meeting;
  renamed?: Rename | undefined;
  notes: string[];
}

function changeAll(before: Meeting, draft: Draft, command: Notifying, known: Known): Decision {
  const after = revised(before, draft.meeting, known.now);
  return {
    changes: [{ before, after, renamed: draft.renamed }],
    facts: factsOfChange(
      { before, after },
      fact(isMoved(before, after) ? 'moved' : 'changed', before.id, command),
      command.tell,
    ),
    notes: draft.notes,
    answer: { id: before.id, occurrence: null },
    undo: { id: before.id, version: after.version },
  };
}

function changeOne(before: SeriesMeeting, command: ChangeCommand, known: Known): Decision {
  const at = occurrenceAsked(before, command);
  const ofAllDates = (Object.keys(command.fields) as FieldName[]).filter(
    (name) => !fieldOf(name).perDate,
  );
  for (const [field, value] of [
    ...ofAllDates.map((name) => [name, command.fields[name]] as const),
    ['repeats', command.repeats],
    ['rights', command.rights],
    ['attendees', command.invited],
    ['holds', command.holds],
  ] as const) {
    if (value !== undefined) {
      throw invalid([{ field, message: 'can be changed only for "following" or "all"' }]);
    }
  }
  const read = command.times ? readTiming(command.times) : null;
  const plan = planOf(before);
  const override = overrideAt(plan, at);
  const { overrides } = withOverride(plan, {
    ...override,
    timing: read ? read.timing : override.timing,
    details: {
      ...override.details,
      ...command.fields,
      ...(read && { endZone: read.endZone }),
      ...(command.resources && { resources: command.resources }),
    },
  });
  const after = revised(before, { ...before, overrides }, known.now);
  return {
    changes: [{ before, after }],
    facts: [fact(isMoved(before, after) ? 'moved' : 'changed', before.id, command, at)],
    notes: read?.span.notes ?? [],
    answer: { id: before.id, occurrence: at },
    undo: { id: before.id, version: after.version },
  };
}

function changeFollowing(before: SeriesMeeting, command: ChangeCommand, known: Known): Decision {
  const at = occurrenceAsked(before, command);
  const { head, tail } = splitMeeting(before, at, known.newId);
  const ended = revised(before, head!, known.now);
  const draft = drafted(tail, command, known.now);
  const next = { ...revised(tail, draft.meeting, known.now), version: 1, sequence: 0 };
  const begun = { ...next, minReplySequence: 0 };
  const changes: MeetingChange[] = [
    { before: null, after: tail, splitFrom: { id: before.id, at } },
    { before, after: ended },
    { before: tail, after: begun, renamed: draft.renamed },
  ];
  return {
    changes,
    facts: [
      fact('changed', before.id, command),
      ...factsOfChange(
        { before: tail, after: begun },
        fact(isMoved(tail, begun) ? 'moved' : 'invited', tail.id, command),
        command.tell,
      ),
    ],
    notes: draft.notes,
    answer: { id: tail.id, occurrence: null },
    undo: { id: before.id, version: ended.version },
  };
}

/** The meeting with everything a command changes about all of it. */
function drafted(before: Meeting, command: ChangeCommand, now: number): Draft {
  const shape = reshaped(before, command);
  const resources = command.resources ?? before.resources;
  const meeting: Meeting = {
    ...before,
    ...command.fields,
    rights: command.rights ?? before.rights,
    endZone: shape.endZone,
    resources,
    ...(before.draft
      ? {
          draft: {
            holds: command.holds ?? before.draft.holds,
            invited: [...(command.invited ?? before.draft.invited)],
          },
        }
      : command.invited && {
          participants: withInvited(before.participants, command.invited, now),
        }),
  };
  if (!shape.plan) {
    const once = { ...meeting, timing: shape.timing, rule: null, except: [], overrides: [] };
    return { ...shape, meeting: once };
  }
  return {
    ...shape,
    meeting: withPlan(meeting, withChoices(shape.plan, command.dates, resources)),
  };
}

interface Shape extends Omit<Draft, 'meeting'> {
  /** Null where it does not repeat, or not any more. */
  plan: ReturnType<typeof planOf> | null;
  timing: EventTiming;
  endZone: string | null;
}

function reshaped(before: Meeting, command: ChangeCommand): Shape {
  const read = command.times ? readTiming(command.times) : null;
  const timing = read?.timing ?? before.timing;
  const common = {
    timing,
    endZone: read ? read.endZone : before.endZone,
    notes: read?.span.notes ?? [],
  };
  if (isSeries(before))
    return { ...common, ...reshapedSeries(before, command, read, common.notes) };
  if (!command.repeats) return { ...common, plan: null };
  const begun = beginSeries(timing, command.repeats);
  return {
    ...common,
    notes: [...begun.notes, ...common.notes],
    plan: { ...begun.timing, ...command.repeats, overrides: [] },
  };
}

function reshapedSeries(
  before: SeriesMeeting,
  command: ChangeCommand,
  read: ReadTiming | null,
  notes: string[],
): Partial<Shape> & { plan: Shape['plan'] } {
  const plan = planOf(before);
  const { repeats, occurrence } = command;
  if (repeats === null) return { plan: null };
  if (repeats) {
    const begun = beginSeries(firstTiming(before, occurrence, read?.timing), repeats);
    const next = namingField('repeats.rule', () =>
      reshapeSeries(plan, { ...begun.timing, rule: repeats.rule }),
    );
    const cancelled = new Set(
      next.plan.overrides.flatMap((one) => (one.cancelled ? one.recurrenceId : [])),
    );
    return {
      plan: { ...next.plan, except: repeats.except.filter((wall) => !cancelled.has(wall)) },
      notes: [...notes, ...begun.notes, ...droppedNotes(next.dropped)],
      renamed: next.renamed,
    };
  }
  if (!read) return { plan };
  const at = occurrence ?? firstOccurrence(parseRule(plan.rule), plan.startsAt);
  const next = namingField('times.startsAt', () => moveSeries(plan, at, read.timing));
  return {
    plan: next.plan,
    notes: [...notes, ...droppedNotes(next.dropped)],
    renamed: next.renamed,
  };
}

/** The times of the first occurrence, when those of the named one are to be as given. */
function firstTiming(
  before: SeriesMeeting,
  occurrence: WallTime | undefined,
  asked: EventTiming | undefined,
): EventTiming {
  if (!asked || occurrence === undefined) return asked ?? before.timing;
  const days = daysBetween(occurrence.slice(0, 10), asked.startsAt.slice(0, 10));
  const date = addDays(before.timing.startsAt.slice(0, 10), days);
  return { ...asked, startsAt: `${date}${asked.startsAt.slice(10)}` };
}

function droppedNotes(dropped: readonly WallTime[]): string[] {
  if (dropped.length === 0) return [];
  const days = dropped.map((wall) => formatDay(Date.parse(`${wall}Z`), 'UTC')).join(', ');
  return [`What was different on ${days} is gone: the series does not happen then any more.`];
}
