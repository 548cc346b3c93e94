import type { EventDetail } from '../../../contract/events.ts';
import { showsEverything, mayChange, type SharingLevel } from '../../../core/availability/busy.ts';
import { isSeries, peopleOf, wantedResources } from '../../../core/meetings/meeting.ts';
import { Refusal } from '../../../core/refusal.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import { Levels, projectDetail, takesPart } from '../../access/index.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Database, Transaction } from '../../db/transaction.ts';
import { lockMeeting, readMeeting, readNextOccurrence, type StoredMeeting } from '../store/read.ts';
import { detailOf } from './detail.ts';
import { readSurroundings, type Surroundings } from './surroundings.ts';

const noSuchEvent = () =>
  new Refusal('no-such-event', 'There is no such event, or it is not shared with you.', {
    fields: [{ field: 'id', message: 'must be the id of an event that is shared with you' }],
  });

/** What an actor may see and do of a meeting. */
export async function levelOn(
  db: Database,
  actor: PersonActor,
  meeting: StoredMeeting,
): Promise<SharingLevel> {
  const levels = await Levels.of(db, actor, [meeting.organizerId]);
  return levels.event({ ...meeting, takesPart: takesPart(actor, peopleOf(meeting)) });
}

/**
 * A meeting that the actor may read.
 * @throws Refusal when there is none or it is not shared, which look the same
 */
export async function visibleMeeting(
  db: Database,
  actor: PersonActor,
  id: string,
): Promise<StoredMeeting> {
  return seen(db, actor, await readMeeting(db, id));
}

async function seen(db: Database, actor: PersonActor, meeting: StoredMeeting | null) {
  if (!meeting || !showsEverything(await levelOn(db, actor, meeting))) throw noSuchEvent();
  return meeting;
}

/** The same, held against other changes until the transaction ends. */
export async function lockVisibleMeeting(
  tx: Transaction,
  actor: PersonActor,
  id: string,
): Promise<StoredMeeting> {
  return seen(tx, actor, await lockMeeting(tx, id));
}

/**
 * A meeting that the actor may change.
 * @throws Refusal when it may not even be read, or only be read
 */
export async function changeableMeeting(
  db: Database,
  actor: PersonActor,
  id: string,
): Promise<StoredMeeting> {
  return changeable(db, actor, await readMeeting(db, id));
}

async function changeable(db: Database, actor: PersonActor, meeting: StoredMeeting | null) {
  const level = meeting && (await levelOn(db, actor, meeting));
  if (!meeting || !level || !showsEverything(level)) throw noSuchEvent();
  if (!mayChange(level)) {
    const organizer = meeting.participants.find((one) => one.role === 'organizer')!;
    throw new Refusal('not-organizer', `Only ${organizer.name} can change this event.`);
  }
  return meeting;
}

/**
 * Holds a meeting that the actor may change, as it was when they read it.
 * @throws Refusal with the present state when `version` is not the present one
 */
export async function lockChangeableMeeting(
  tx: Transaction,
  actor: PersonActor,
  id: string,
  version: number | null,
): Promise<StoredMeeting> {
  const meeting = await changeable(tx, actor, await lockMeeting(tx, id));
  if (version !== null && meeting.version !== version) {
    throw new Refusal('stale', 'This event was changed meanwhile; look at it again.', {
      fields: [{ field: 'version', message: `must be ${meeting.version}, the present version` }],
      current: await readDetail(tx, actor, id),
    });
  }
  return meeting;
}

/**
 * An event as the actor may see it, with one of its occurrences in view.
 * @param at the occurrence of a series; else the one that is next at `now`, or the last
 * @throws Refusal when there is none or it is not shared
 */
export async function readDetail(
  db: Database,
  actor: PersonActor,
  id: string,
  { at, now }: { at?: WallTime | undefined; now?: number } = {},
): Promise<EventDetail> {
  return detailFor(db, actor, await visibleMeeting(db, actor, id), { at, now });
}

/** The same of a meeting that is known. */
export async function detailFor(
  db: Database,
  actor: PersonActor,
  meeting: StoredMeeting,
  { at, now = 0 }: { at?: WallTime | undefined; now?: number | undefined },
): Promise<EventDetail> {
  const [level, surroundings, occurrence] = await Promise.all([
    levelOn(db, actor, meeting),
    readSurroundings(db, meeting.id, actor.me.id, wantedResources(meeting)),
    at ?? (isSeries(meeting) ? readNextOccurrence(db, meeting.id, now) : null),
  ]);
  return present(meeting, occurrence, surroundings, level, actor);
}

/** Puts a detail together from what is known. */
export function present(
  meeting: StoredMeeting,
  at: WallTime | null,
  surroundings: Surroundings,
  level: SharingLevel,
  actor: PersonActor,
): EventDetail {
  const detail = projectDetail(detailOf(meeting, at, surroundings), level, actor);
  if (!detail) throw noSuchEvent();
  return detail;
}
