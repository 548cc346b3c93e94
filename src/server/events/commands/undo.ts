import { mayChange, showsEverything } from '../../../core/availability/busy.ts';
import type { Decision } from '../../../core/meetings/decision.ts';
import type { NotifyScope } from '../../../core/meetings/people.ts';
import {
  aheadOnly,
  datesGoingBack,
  decideUndo,
  type Revision,
} from '../../../core/meetings/undo.ts';
import { wantedResources } from '../../../core/meetings/meeting.ts';
import { isOfHost } from '../../../core/meetings/edits.ts';
import { tellingOutsiders } from '../../../core/meetings/leave.ts';
import { isTitleOfBooking } from '../../../core/meetings/ownTitle.ts';
import { Refusal } from '../../../core/refusal.ts';
import { may } from '../../access/index.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import type { Database, Transaction } from '../../db/transaction.ts';
import type { ChangeOf } from '../../facts/index.ts';
import type { Platform } from '../../platform.ts';
import type { HeldResources } from '../../reservations/index.ts';
import { readOccurrences } from '../occurrences/queries.ts';
import { changeableMeeting, levelsOn, lockChangeableMeeting } from '../read/visible.ts';
import { lockMeeting, lockMeetings, readMeetings, type StoredMeeting } from '../store/read.ts';
import { dropRevisions, hasRevisions, readRevisions, takeRevision } from '../store/revisions.ts';
import { carryOut, carryOutTogether, type Done } from './carryOut.ts';

/**
 * Takes a change of an event back, and only what that change touched: what others did since stays.
 * @param request `version` is that which was read, or null for whatever it is now; `change` names the version that the change made; without it, the latest is meant
 * @throws Refusal when there is nothing to take back, or all of it has been changed since;
 *   ResourcesTaken when somebody has taken a resource in the meantime
 */
export async function undoChange(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: string,
  request: { version: number | null; change?: number | undefined; tell: NotifyScope },
  held?: HeldResources,
): Promise<Done> {
  const present = await lockChangeableMeeting(tx, actor, id, request.version);
  const revision = await takeRevision(tx, id, request.change ?? null);
  if (!revision) {
    throw new Refusal('nothing-to-undo', 'There is no change of this event to take back.');
  }
  if (handsOver(revision)) throw isOfLeaving();
  if (isOrganizers(revision)) await changeableMeeting(tx, actor, id, 'organizer');
  const decision = await takenBack(tx, present, revision, request.tell);
  return carryOut(tx, platform, actor, present, decision, { held });
}

/** The values of a meeting that a change of its bookings touches, by their paths. */
const OF_BOOKINGS =
  /^(status|shape|(resource|except|answer)\/.*|override\/[^/]+\/(resources|timing|endZone|cancelledAt|minReplySequence))$/;

/** The places that a change took from a meeting; those that it has, where it took none. */
function placesOf({ edits }: Revision, meeting: StoredMeeting): number[] {
  const taken = edits.flatMap(({ path, from }) => {
    if (from === null) return [];
    if (path.startsWith('resource/')) return Number(path.split('/')[1]);
    return path.endsWith('/resources') ? (from as number[]) : [];
  });
  return taken.length > 0 ? taken : wantedResources(meeting);
}

/** Whether an edit is what a change of bookings does: a title, where it is made of the names of places. */
function isOfBookings({ path, from, to }: Revision['edits'][number]): boolean {
  if (!/^title$|^override\/[^/]+\/title$/.test(path)) return OF_BOOKINGS.test(path);
  return [from, to].every(
    (title) => title === null || (typeof title === 'string' && isTitleOfBooking(title)),
  );
}

/** What came of changes that were taken back together. */
export interface TakenBack {
  undone: number;
  /** Of how many of them something stays that has been changed again. */
  partly: number;
  /** Those that stay, since all they touched has been changed again, or they are taken back already. */
  left: number;
}

/**
 * Takes changes of several events back together, the last first. Whoever looks after places takes back
 * what they did to others' bookings, too. What has been changed since stays; everybody is told.
 * @param changes one of each event, in the order in which they were made
 * @param after only what begins after this instant goes back; epoch milliseconds
 * @param ofLeaving whether it is what was done as somebody left, which whoever administers the organization takes
 *   back, whoever organizes it
 * @throws Refusal for an event that is not there, not seen, or not the actor's to change;
 *   ResourcesTaken when somebody has taken a resource in the meantime: nothing is taken back then
 */
export async function undoTogether(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  changes: readonly ChangeOf[],
  { after, ofLeaving = false }: { after?: number; ofLeaving?: boolean } = {},
): Promise<TakenBack> {
  const meetings = await lockMeetings(tx, changes.map((one) => one.id).sort());
  const [levels, revisions] = await Promise.all([
    levelsOn(tx, actor, [...meetings.values()]),
    readRevisions(tx, changes),
  ]);
  const done: ChangeOf[] = [];
  const decisions: Decision[] = [];
  let partly = 0;
  for (const [k, change] of [...changes.entries()].reverse()) {
    const present = meetings.get(change.id);
    const revision = revisions.get(change.id);
    const isOwn =
      ofLeaving ||
      (present !== undefined &&
        revision?.by === actor.me.id &&
        revision.edits.every(isOfBookings) &&
        placesOf(revision, present).every((place) => may(actor, 'change', place)));
    if (revision && handsOver(revision) && !ofLeaving) throw isOfLeaving();
    const level = present && levels.get(present.id)!;
    if (!level || !(isOwn || showsEverything(level.level))) {
      throw new Refusal('no-such-event', 'There is no such event, or it is not shared with you.', {
        fields: [{ field: `changes.${k}.id`, message: 'must be the id of an event' }],
      });
    }
    const right = revision && isOrganizers(revision) ? level.asOrganizer : level.level;
    if (!isOwn && !mayChange(right)) {
      throw new Refusal('not-organizer', 'Only whoever organizes it can take that back.', {
        fields: [{ field: `changes.${k}.id`, message: 'must be an event you may change' }],
      });
    }
    const going = revision && present && ahead(present, revision, after);
    const decision = going && (await unlessChanged(takenBack(tx, present, going, 'everyone')));
    if (!decision) continue;
    if (ofLeaving)
      decision.facts = decision.facts.map((one) =>
        tellingOutsiders(one, present.participants, present),
      );
    if (decision.notes.length > 0) partly++;
    decisions.push(decision);
    done.push(change);
  }
  dropRevisions(tx, done);
  await carryOutTogether(tx, platform, actor, meetings, decisions, {
    ...(ofLeaving && { agreesToNothing: true }),
  });
  return { undone: done.length, partly, left: changes.length - done.length };
}

/** What of a change lies after an instant, if any does. */
function ahead(
  present: StoredMeeting,
  revision: Revision,
  after: number | undefined,
): Revision | null {
  const going = after === undefined ? revision : aheadOnly(present, revision, after);
  return going.edits.length > 0 ? going : null;
}

/**
 * The dates that `undoTogether` would give back what they had, by the id of their event; null for what
 * happens once.
 */
export async function datesThatGoBack(
  db: Database,
  changes: readonly ChangeOf[],
  after: number,
): Promise<Map<string, (WallTime | null)[]>> {
  const [meetings, revisions] = await Promise.all([
    readMeetings(
      db,
      changes.map((one) => one.id),
    ),
    readRevisions(db, changes),
  ]);
  const dates = changes.flatMap(({ id }) => {
    const [present, revision] = [meetings.get(id), revisions.get(id)];
    const going = present && revision && ahead(present, revision, after);
    const some = going ? datesGoingBack(present, going) : [];
    return some.length > 0 ? [[id, some] as const] : [];
  });
  return new Map(dates);
}

/**
 * Whether to take a change back is to do what its organizer alone does: cancel it or bring it back, all of it
 * or a date, send it or make it a draft again, say what those who are invited may do.
 */
const isOrganizers = ({ edits }: Revision): boolean =>
  edits.some(({ path }) => ORGANIZERS.test(path));

/** Whether a change gave the meeting to somebody else to organize. */
const handsOver = ({ edits }: Revision): boolean => edits.some(isOfHost);

const isOfLeaving = () =>
  new Refusal(
    'not-organizer',
    'It was handed over as somebody left. Whoever administers the organization takes that back, in the log.',
  );

const ORGANIZERS = /^(?:status|rights|draft|override\/[^/]+\/cancelledAt)$/;

/** Null where all of it has been changed since. */
const unlessChanged = async (decision: Promise<Decision>): Promise<Decision | null> => {
  try {
    return await decision;
  } catch (error) {
    if (error instanceof Refusal && error.code === 'changed-since') return null;
    throw error;
  }
};

async function takenBack(
  tx: Transaction,
  present: StoredMeeting,
  revision: Revision,
  tell: NotifyScope,
): Promise<Decision> {
  const tail = revision.splitOff && (await lockMeeting(tx, revision.splitOff.id));
  return decideUndo(
    present,
    revision,
    { tell },
    tail && {
      meeting: tail,
      changedSince: await hasRevisions(tx, tail.id),
      laidOut: (await readOccurrences(tx, [tail.id]))
        .get(tail.id)!
        .map((one) => one.recurrenceId ?? tail.timing.startsAt),
    },
  );
}
