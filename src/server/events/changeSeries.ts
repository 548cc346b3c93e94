import { randomUUID } from 'node:crypto';
import type { Cancellation, EventChange } from '../../contract/events.ts';
import type { Me } from '../../contract/session.ts';
import { firstOccurrence } from '../../core/recurrence/expand.ts';
import { parseRule } from '../../core/recurrence/rule.ts';
import {
  moveSeries,
  reshapeSeries,
  splitSeries,
  withOverride,
  type EventTiming,
} from '../../core/recurrence/series.ts';
import { formatDay } from '../../core/time/format.ts';
import { addDays, daysBetween, type WallTime } from '../../core/time/wall.ts';
import type { Transaction } from '../db/transaction.ts';
import { invalid } from '../http/problem.ts';
import type { Platform } from '../platform.ts';
import { changedTexts, contentOf, settle, withChanges, type Changed } from './change.ts';
import { applyChoices, happensAt, overrideAt } from './choices.ts';
import { layOut } from './layOut.ts';
import { planOf, type EventPlan, type EventRecord } from './model.ts';
import { askAgain, replaceOverrides } from './overrideQueries.ts';
import {
  copyBelongings,
  insertEvent,
  readEvent,
  replaceReservations,
  resetReplies,
  updateEvent,
  type EventContent,
} from './queries.ts';
import { keepRevision } from './revisions.ts';
import { beginSeries, naming, readTimes } from './timing.ts';

type SeriesRecord = EventRecord & { rule: string };

/** Whether a request for a part of a series means all of it. */
export function wholeOf(event: SeriesRecord, part: Pick<Cancellation, 'scope' | 'occurrence'>) {
  if (part.scope === 'all') return true;
  return (
    part.scope === 'following' &&
    splitSeries(planOf(event), occurrenceAsked(event, part)).head === null
  );
}

/** @throws Problem 400 when no occurrence is named, or the series does not happen then */
function occurrenceAsked(
  event: SeriesRecord,
  { occurrence }: Pick<Cancellation, 'occurrence'>,
): WallTime {
  if (occurrence === undefined) {
    throw invalid([{ field: 'occurrence', message: 'must be given unless "scope" is "all"' }]);
  }
  if (!happensAt(planOf(event), occurrence)) {
    throw invalid([{ field: 'occurrence', message: 'must be an occurrence of the series' }]);
  }
  return occurrence;
}

/** Changes one occurrence, one and those that follow, or all of a series. */
export async function changeSeries(
  tx: Transaction,
  platform: Platform,
  me: Me,
  before: SeriesRecord,
  change: EventChange,
): Promise<Changed> {
  if (change.scope === 'one') return changeOne(tx, platform, me, before, change);
  if (wholeOf(before, change)) return changeAll(tx, platform, me, before, change);
  return changeFollowing(tx, platform, me, before, change);
}

async function changeOne(
  tx: Transaction,
  platform: Platform,
  me: Me,
  before: SeriesRecord,
  change: EventChange,
): Promise<Changed> {
  const at = occurrenceAsked(before, change);
  for (const field of ['repeats', 'visibility'] as const) {
    if (change[field] !== undefined) {
      throw invalid([{ field, message: 'can be changed only for "following" or "all"' }]);
    }
  }
  const now = platform.clock.now();
  const read = change.times ? readTimes(change.times) : null;
  const override = overrideAt(planOf(before), at);
  const { overrides } = withOverride(planOf(before), {
    ...override,
    timing: read ? read.timing : override.timing,
    details: {
      ...override.details,
      ...changedTexts(change),
      ...(read && { endZone: read.endZone }),
      ...(change.resources && { resources: change.resources }),
    },
  });
  await keepRevision(tx, before, now);
  await replaceOverrides(tx, before.id, overrides);
  if (read) await askAgain(tx, before.id, at, now);
  await writeSeries(tx, before, contentOf(before), now);
  const event = await settle(tx, platform, me, before, change, read ? 'moved' : 'changed', at);
  return { event, notes: read?.span.notes ?? [] };
}

async function changeAll(
  tx: Transaction,
  platform: Platform,
  me: Me,
  before: SeriesRecord,
  change: EventChange,
): Promise<Changed> {
  const now = platform.clock.now();
  await keepRevision(tx, before, now);
  const { moved, notes } = await rewrite(tx, before, change, now);
  const event = await settle(tx, platform, me, before, change, moved ? 'moved' : 'changed');
  return { event, notes };
}

async function changeFollowing(
  tx: Transaction,
  platform: Platform,
  me: Me,
  before: SeriesRecord,
  change: EventChange,
): Promise<Changed> {
  const now = platform.clock.now();
  const at = occurrenceAsked(before, change);
  const tail = await splitOff(tx, platform, me, before, at);
  const { moved, notes } = await rewrite(tx, tail, change, now);
  await settle(tx, platform, me, before, change, 'changed');
  const event = await settle(tx, platform, me, tail, change, moved ? 'moved' : 'invited');
  return { event, notes, undo: { id: before.id, version: before.version + 1 } };
}

/** Ends a series before an occurrence; what follows becomes an event of its own, claims to follow. */
async function splitOff(
  tx: Transaction,
  platform: Platform,
  me: Me,
  before: SeriesRecord,
  at: WallTime,
): Promise<SeriesRecord> {
  const now = platform.clock.now();
  const { head, tail } = splitSeries(planOf(before), at);
  const domain = before.uid.split('@')[1];
  const content = contentOf(before);
  const id = await insertEvent(
    tx,
    { ...content, startsAt: at, rule: tail.rule, exceptAt: tail.except },
    {
      organizerId: before.organizer.id,
      createdBy: me.id,
      uid: `${randomUUID()}@${domain}`,
      now,
    },
  );
  await copyBelongings(tx, before.id, id, at);
  await replaceOverrides(tx, id, tail.overrides);
  await keepRevision(tx, before, now, id);
  await replaceOverrides(tx, before.id, head!.overrides);
  await writeSeries(tx, before, { ...content, rule: head!.rule, exceptAt: head!.except }, now);
  // The claims of what follows go with its occurrences, before anything claims them anew.
  await layOut(tx, (await readEvent(tx, before.id, now))!, now);
  return (await readEvent(tx, id, now)) as SeriesRecord;
}

const writeSeries = (tx: Transaction, before: EventRecord, content: EventContent, now: number) =>
  updateEvent(
    tx,
    { ...content, id: before.id, status: before.status, sequence: before.sequence + 1 },
    now,
  );

/** Writes a change of a whole series; occurrences and claims follow when it is settled. */
async function rewrite(
  tx: Transaction,
  before: SeriesRecord,
  change: EventChange,
  now: number,
): Promise<{ moved: boolean; notes: string[] }> {
  const shape = reshaped(before, change);
  const wanted = change.resources ?? before.resources.map((one) => one.id);
  const plan = shape.plan && (await applyChoices(tx, shape.plan, change.dates, wanted));
  if (shape.moved) await resetReplies(tx, before.id, now);
  if (change.resources) await replaceReservations(tx, before.id, change.resources);
  await writeSeries(
    tx,
    before,
    {
      ...withChanges(contentOf(before), change),
      ...shape.timing,
      endZone: shape.endZone,
      rule: plan?.rule ?? null,
      exceptAt: plan?.except ?? [],
    },
    now,
  );
  await replaceOverrides(tx, before.id, plan?.overrides ?? []);
  return { moved: shape.moved, notes: shape.notes };
}

interface Shape {
  /** Null where it does not repeat any more. */
  plan: EventPlan | null;
  timing: EventRecord['whole'];
  endZone: string | null;
  moved: boolean;
  notes: string[];
}

function reshaped(before: SeriesRecord, change: EventChange): Shape {
  const plan = planOf(before);
  const read = change.times ? readTimes(change.times) : null;
  const endZone = read ? read.endZone : before.endZone;
  const notes = read?.span.notes ?? [];
  if (change.repeats === null) {
    const timing = read?.timing ?? before.whole;
    return { plan: null, timing, endZone, moved: read !== null, notes };
  }
  if (change.repeats) {
    const begun = beginSeries(firstTiming(before, change, read?.timing), change.repeats);
    const { plan: next, dropped } = naming('repeats.rule', () =>
      reshapeSeries(plan, { ...begun.timing, rule: change.repeats!.rule }),
    );
    const cancelled = new Set(
      next.overrides.flatMap((one) => (one.cancelled ? one.recurrenceId : [])),
    );
    const except = change.repeats.except.filter((wall) => !cancelled.has(wall));
    return {
      plan: { ...next, except },
      timing: begun.timing,
      endZone,
      moved: read !== null || change.repeats.rule !== before.rule,
      notes: [...notes, ...begun.notes, ...droppedNotes(dropped)],
    };
  }
  if (!read) return { plan, timing: before.whole, endZone, moved: false, notes };
  const at = change.occurrence ?? firstOccurrence(parseRule(plan.rule), plan.startsAt);
  const { plan: next, dropped } = naming('times.startsAt', () => moveSeries(plan, at, read.timing));
  const { startsAt, zone, fold, lengthMinutes, allDay } = next;
  return {
    plan: next,
    timing: { startsAt, zone, fold, lengthMinutes, allDay },
    endZone,
    moved: true,
    notes: [...notes, ...droppedNotes(dropped)],
  };
}

/** The times of the first occurrence, when those of the named one are to be as given. */
function firstTiming(
  before: SeriesRecord,
  { occurrence }: EventChange,
  asked: EventTiming | undefined,
): EventTiming {
  if (!asked || occurrence === undefined) return asked ?? before.whole;
  const days = daysBetween(occurrence.slice(0, 10), asked.startsAt.slice(0, 10));
  const date = addDays(before.whole.startsAt.slice(0, 10), days);
  return { ...asked, startsAt: `${date}${asked.startsAt.slice(10)}` };
}

function droppedNotes(dropped: readonly WallTime[]): string[] {
  if (dropped.length === 0) return [];
  const days = dropped.map((wall) => formatDay(Date.parse(`${wall}Z`), 'UTC')).join(', ');
  return [`What was different on ${days} is gone: the series does not happen then any more.`];
}

/**
 * Cancels one occurrence, or one and those that follow. The former is kept as cancelled within the
 * series, the latter as a cancelled series of its own; both can be restored.
 */
export async function cancelPart(
  tx: Transaction,
  platform: Platform,
  me: Me,
  before: SeriesRecord,
  request: Cancellation,
): Promise<EventRecord> {
  const now = platform.clock.now();
  const at = occurrenceAsked(before, request);
  if (request.scope === 'following') {
    const tail = await splitOff(tx, platform, me, before, at);
    await updateEvent(
      tx,
      { ...contentOf(tail), id: tail.id, status: 'cancelled', sequence: 0 },
      now,
    );
    await layOut(tx, (await readEvent(tx, tail.id, now))!, now);
    return settle(tx, platform, me, before, request, 'changed');
  }
  const override = overrideAt(planOf(before), at);
  await keepRevision(tx, before, now);
  const { overrides } = withOverride(planOf(before), {
    ...override,
    cancelled: true,
    details: { ...override.details, cancelledAt: now },
  });
  await replaceOverrides(tx, before.id, overrides);
  await writeSeries(tx, before, contentOf(before), now);
  return settle(tx, platform, me, before, request, 'cancelled', at);
}
