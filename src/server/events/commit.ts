import type { Decision, MeetingChange } from '../../core/meetings/decision.ts';
import type { MeetingFact } from '../../core/meetings/meetingFacts.ts';
import { editsBetween } from '../../core/meetings/edits.ts';
import { peopleOf, wantedResources, type Meeting } from '../../core/meetings/meeting.ts';
import { grouped } from '../../core/grouped.ts';
import { participantKey } from '../../core/meetings/people.ts';
import { answersOf } from '../../core/meetings/undo.ts';
import { invalid } from '../../core/refusal.ts';
import { same } from '../../core/same.ts';
import { actorId, principalIn, type Actor } from '../actions/index.ts';
import { sendTogether } from '../db/parts.ts';
import type { Transaction } from '../db/transaction.ts';
import { foresee, publish, recordFacts, type Revised } from '../facts/index.ts';
import { subjectOf } from '../live/index.ts';
import {
  newParticipants,
  updateParticipants,
  withNumbers as withNumbersOf,
} from '../participants/index.ts';
import { readStewards } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import {
  followOrganizers,
  holdResources,
  readResources,
  type HeldResources,
} from '../reservations/index.ts';
import { copyBelongings } from './belongingQueries.ts';
import { laidOutUntil, newSpans } from './occurrences/dates.ts';
import { expandOccurrences } from './occurrences/expansion.ts';
import {
  moveOccurrences,
  moveOccurrencesFrom,
  newOccurrences,
  withIds,
} from './occurrences/queries.ts';
import { deleteMeeting, newMeeting, updateMeetings, writeNewOverrides } from './store/write.ts';

/** What was committed. */
export interface Committed {
  /** The meetings as they are now, by id; those that are gone as they last were. */
  meetings: ReadonlyMap<string, Meeting>;
  /** The resources they want, all of them held. */
  resources: HeldResources;
  /** Resources to which a steward has yet to agree, by the meeting that wants them. */
  asked: ReadonlyMap<string, readonly number[]>;
}

/** What a command has read already. */
interface Before {
  /** Up to when the series concerned are laid out, by id. Epoch milliseconds. */
  expandedUntil?: ReadonlyMap<string, number | null>;
  /** Resources that it holds. */
  held?: HeldResources | undefined;
  /** Which field named a resource, where it may be none. */
  fieldOf?: ((resourceId: number) => string) | undefined;
}

/**
 * Does what a command decided, all of it: the meetings, their people, occurrences, reservations and
 * claims by difference, then what happened, how it is taken back, and who is told. No command goes
 * around it. Many meetings take as many statements as one.
 * @throws ResourcesTaken when a resource is taken at a time to come; nothing must be kept then
 */
export async function commit(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  decision: Decision,
  { expandedUntil = new Map(), held = new Map(), fieldOf }: Before = {},
): Promise<Committed> {
  const now = platform.clock.now();
  const wanted = new Set(
    decision.changes.flatMap(({ after }) => (after ? wantedResources(after) : [])),
  );
  const missing = [...wanted].filter((id) => !held.has(id));
  const holding = holdOnce(tx, held, missing, fieldOf);
  foresee(tx, platform, decision);
  const meetings = new Map<string, Meeting>();
  const asked = new Map<string, readonly number[]>();
  const { agreesToNothing } = decision;
  const context = {
    ...{ tx, platform, actor, hold: holding.hold, expandedUntil, now, asked, agreesToNothing },
  };
  for (const some of together(decision.changes)) {
    const changes = some.map((change) => ({ ...change, ...withNumbers(change, meetings) }));
    const [{ before, after }] = changes as [MeetingChange];
    if (!after) {
      remove(context, changes[0]!);
      meetings.set(before!.id, before!);
    } else if (!before) {
      meetings.set(after.id, await make(context, { ...changes[0]!, after }));
    } else {
      for (const meeting of await rewrite(context, changes as Rewritten[]))
        meetings.set(meeting.id, meeting);
    }
  }
  const resources = holding.held() ?? (await readResources(tx, [...wanted]));
  refuseUnknown(wanted, resources, fieldOf);
  const gone = new Set(decision.changes.flatMap(({ before, after }) => (after ? [] : before!.id)));
  const facts = [...decision.facts, ...(await askStewards(tx, asked, now))];
  await publish(tx, platform, actor, {
    facts,
    meetings,
    resources,
    gone,
    changes: decision.changes,
  });
  recordFacts(tx, {
    facts,
    actorId: actorId(actor),
    actedFor: actedFor(actor, decision, meetings),
    revisions: revisionsOf(decision, meetings),
    subjects: [...new Set(decision.changes.flatMap((change) => concernedBy(change)))],
    now,
  });
  return { meetings, resources, asked };
}

/** A change of a meeting that was and is. */
type Rewritten = MeetingChange & { before: Meeting; after: Meeting };

/**
 * Changes in the order in which they are written: those of meetings that were and are go together, each
 * meeting once; what is made, and what goes into another, goes by itself.
 */
function together(changes: readonly MeetingChange[]): MeetingChange[][] {
  const all: MeetingChange[][] = [];
  for (const change of changes) {
    const last = all.at(-1);
    const isRewritten = change.before !== null && change.after !== null;
    const joins =
      isRewritten &&
      last?.every(({ before, after }) => before && after && after.id !== change.after!.id);
    if (joins) last!.push(change);
    else all.push([change]);
  }
  return all;
}

/** In whose name it was done; an answer is always the actor's own, unless they say whose. */
function actedFor(
  actor: Actor,
  { facts, answer }: Decision,
  meetings: ReadonlyMap<string, Meeting>,
): number | null {
  const isAnswer = facts.some(({ kind }) => kind === 'replied' || kind === 'proposed');
  const meeting = meetings.get(answer.id);
  if (isAnswer || !meeting) return actor.kind === 'person' && actor.by ? actor.me.id : null;
  return principalIn(actor, meeting.organizerId);
}

/**
 * Holds the resources that meetings want once it is asked for: as late as can be, since others who want one of
 * them wait until this transaction ends. A change that reserves nothing anew holds none.
 */
function holdOnce(
  tx: Transaction,
  before: HeldResources,
  missing: readonly number[],
  fieldOf: Before['fieldOf'],
): { hold: () => Promise<HeldResources>; held: () => HeldResources | null } {
  let held: HeldResources | null = missing.length === 0 ? before : null;
  let holding: Promise<HeldResources> | null = null;
  const holdThem = async () => {
    const them = await holdResources(tx, missing, fieldOf && ((k) => fieldOf(missing[k]!)));
    return (held = new Map([...before, ...them]));
  };
  return {
    hold: () => (held ? Promise.resolve(held) : (holding ??= holdThem())),
    held: () => held,
  };
}

/** @throws Refusal naming the first that is no resource; one that nothing is reserved of yet is looked at here */
function refuseUnknown(
  wanted: ReadonlySet<number>,
  resources: HeldResources,
  fieldOf: Before['fieldOf'],
): void {
  const unknown = [...wanted].find((id) => !resources.has(id));
  if (unknown === undefined) return;
  throw invalid([
    { field: fieldOf?.(unknown) ?? 'resources', message: 'must be the id of a resource' },
  ]);
}

interface Context {
  tx: Transaction;
  platform: Platform;
  actor: Actor;
  /** Holds all the resources that are wanted, once. */
  hold: () => Promise<HeldResources>;
  expandedUntil: ReadonlyMap<string, number | null>;
  now: number;
  /** Resources to which a steward has to agree, by the meeting that wants them. */
  asked: Map<string, readonly number[]>;
  agreesToNothing: boolean | undefined;
}

/** That stewards have to agree to what a change wants. */
async function askStewards(
  tx: Transaction,
  asked: ReadonlyMap<string, readonly number[]>,
  now: number,
): Promise<MeetingFact[]> {
  if (asked.size === 0) return [];
  const stewards = await readStewards(tx, [...new Set([...asked.values()].flat())], now);
  // Each is asked about what they look after, and told of nothing else.
  return [...asked].flatMap(([meetingId, resources]) =>
    [...grouped(resources, (id) => String(stewards.get(id) ?? []))].map(
      ([, some]): MeetingFact => ({
        kind: 'place-asked',
        meetingId,
        occurrence: null,
        tell: false,
        message: '',
        details: { resources: some, stewards: stewards.get(some[0]!) ?? [] },
      }),
    ),
  );
}

/** A meeting that was made by an earlier change of the same decision has its people's numbers. */
function withNumbers(
  { before, after }: MeetingChange,
  meetings: ReadonlyMap<string, Meeting>,
): Pick<MeetingChange, 'before' | 'after'> {
  const made = before && meetings.get(before.id);
  if (!made || !after) return { before, after };
  const ids = new Map(made.participants.map((one) => [participantKey(one), one.id]));
  const numbered = (meeting: Meeting): Meeting => ({
    ...meeting,
    participants: meeting.participants.map((one) => ({
      ...one,
      // Whoever a later change adds has none yet.
      id: ids.get(participantKey(one)) ?? 0,
    })),
  });
  return { before: made, after: numbered(after) };
}

/** A meeting that is new, with its people and dates: one statement. */
async function make(
  { tx, platform, actor, hold, expandedUntil, now, asked, agreesToNothing }: Context,
  change: MeetingChange & { after: Meeting },
): Promise<Meeting> {
  const { after, splitFrom } = change;
  const known = splitFrom ? (expandedUntil.get(splitFrom.id) ?? null) : null;
  const until = laidOutUntil(after, known, now);
  // What came from elsewhere is nobody's here; it stands under the first of those invited.
  const createdBy = actorId(actor) ?? after.organizerId ?? peopleOf(after)[0]!;
  const write = { before: null, after, expandedUntil: until };
  const coming = [{ eventId: after.id, participants: after.participants }];
  const spans = splitFrom ? [] : newSpans(after, until, now);
  const sending = sendTogether(tx, [
    newMeeting(write, { createdBy, now }),
    newParticipants(coming),
    ...(splitFrom ? [] : [newOccurrences(spans)]),
  ]);
  writeNewOverrides(tx, write);
  const [, people, dates] = await sending;
  const made = { ...after, participants: withNumbersOf(coming, people)[0]! };
  if (splitFrom) {
    moveOccurrencesFrom(tx, splitFrom.id, after.id, splitFrom.at);
    copyBelongings(tx, platform.belongings, splitFrom.id, after.id);
    return made;
  }
  const laying = { change, until, untilBefore: null, made: withIds(spans, dates) };
  const [places] = await expandOccurrences(tx, [laying], { hold, actor, now, agreesToNothing });
  if (places!.length > 0) asked.set(after.id, places!);
  return made;
}

/** Meetings that were and are: as many statements as one of them takes. */
async function rewrite(
  { tx, hold, expandedUntil, actor, now, asked, agreesToNothing }: Context,
  changes: readonly Rewritten[],
): Promise<Meeting[]> {
  const layings = changes.map((change) => {
    const untilBefore = expandedUntil.get(change.after.id) ?? null;
    return { change, untilBefore, until: laidOutUntil(change.after, untilBefore, now) };
  });
  // An answer changes nothing of the meeting itself.
  const itself = (meeting: Meeting) => ({ ...meeting, participants: [] });
  updateMeetings(
    tx,
    layings
      .filter(({ change: { before, after } }) => !same(itself(before), itself(after)))
      .map(({ change: { before, after }, until }) => ({ before, after, expandedUntil: until })),
    now,
  );
  const people = await updateParticipants(tx, changes);
  const places = await expandOccurrences(tx, layings, {
    ...{ hold, actor, now, agreesToNothing },
  });
  const handedOver = changes.filter(
    ({ before, after }) => before.organizerId !== after.organizerId,
  );
  if (handedOver.length > 0)
    followOrganizers(
      tx,
      handedOver.map(({ after }) => after.id),
      now,
    );
  return changes.map(({ after }, k) => {
    if (places[k]!.length > 0) asked.set(after.id, places[k]!);
    return { ...after, participants: people[k]! };
  });
}

function remove({ tx, platform }: Context, change: MeetingChange): void {
  const { before, mergedInto } = change;
  if (mergedInto) {
    moveOccurrences(tx, before!.id, mergedInto.id, mergedInto.names);
    copyBelongings(tx, platform.belongings, before!.id, mergedInto.id);
  }
  deleteMeeting(tx, before!.id);
}

function revisionsOf(
  { undo, changes, areUndoneApart }: Decision,
  meetings: ReadonlyMap<string, Meeting>,
): Revised[] {
  return changes.flatMap(({ before, after }) => {
    if (!before || !after || !(areUndoneApart || before.id === undo?.id)) return [];
    // What was split off just now goes back with what it was split from.
    if (changes.some((one) => one.splitFrom && one.after?.id === before.id)) return [];
    const split = changes.find((one) => one.splitFrom?.id === before.id);
    const revised: Revised = {
      eventId: before.id,
      version: after.version,
      edits: editsBetween(before, after),
      splitOff: split
        ? {
            id: split.after!.id,
            at: split.splitFrom!.at,
            answers: answersOf(meetings.get(split.after!.id)!),
          }
        : null,
    };
    return [revised];
  });
}

/** Whose calendars, which resources and which meeting show something else after a change. */
function concernedBy({ before, after }: MeetingChange): string[] {
  return [before, after].flatMap((meeting) =>
    meeting
      ? [
          subjectOf('meeting', meeting.id),
          ...peopleOf(meeting).map((id) => subjectOf('calendar', id)),
          ...wantedResources(meeting).map((id) => subjectOf('resource', id)),
        ]
      : [],
  );
}
