import type { EventDetail } from '../../../contract/eventDetail.ts';
import { showsEverything, mayChange, type SharingLevel } from '../../../core/availability/busy.ts';
import { nextOccurrence } from '../../../core/meetings/next.ts';
import { isSeries, peopleOf, wantedResources } from '../../../core/meetings/meeting.ts';
import { Refusal } from '../../../core/refusal.ts';
import { wholeDaysIn } from '../../../core/time/eventTimes.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import { Levels, projectDetail, isShownIt } from '../../access/index.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Database, Transaction } from '../../db/transaction.ts';
import { lockMeeting, readMeeting, readNextOccurrence, type StoredMeeting } from '../store/read.ts';
import { detailOf } from './detail.ts';
import { readSurroundings, type EventSurroundings } from './surroundingQueries.ts';

const noSuchEvent = () =>
  new Refusal('no-such-event', 'There is no such event, or it is not shared with you.', {
    fields: [{ field: 'id', message: 'must be the id of an event that is shared with you' }],
  });

/** What an actor may see and do of a meeting, and what of it as its organizer does. */
export interface LevelsOn {
  level: SharingLevel;
  asOrganizer: SharingLevel;
}

export async function levelOn(
  db: Database,
  actor: PersonActor,
  meeting: StoredMeeting,
): Promise<LevelsOn> {
  return (await levelsOn(db, actor, [meeting])).get(meeting.id)!;
}

/** The same of several meetings, by id, read together. */
export async function levelsOn(
  db: Database,
  actor: PersonActor,
  meetings: readonly StoredMeeting[],
): Promise<Map<string, LevelsOn>> {
  const levels = await Levels.of(
    db,
    actor,
    meetings.map((one) => one.organizerId),
  );
  return new Map(
    meetings.map(({ id, organizerId, visibility, rights, participants, draft }) => {
      const shown = draft ? ('draft' as const) : visibility;
      const people = peopleOf({ participants });
      const facts = {
        organizerId,
        visibility: shown,
        takesPart: isShownIt(actor, { people, visibility: shown }),
      };
      return [id, { level: levels.event({ ...facts, rights }), asOrganizer: levels.event(facts) }];
    }),
  );
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
  if (!meeting || !showsEverything((await levelOn(db, actor, meeting)).level)) throw noSuchEvent();
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
  by?: By,
): Promise<StoredMeeting> {
  return changeable(db, actor, await readMeeting(db, id), by);
}

/** Whether an actor may change a meeting that they may read. */
export async function mayChangeIt(
  db: Database,
  actor: PersonActor,
  meeting: StoredMeeting,
): Promise<boolean> {
  return mayChange((await levelOn(db, actor, meeting)).level);
}

/** Whether an act is its organizer's alone, or also one of those who are invited and may change it. */
type By = 'organizer' | 'invitee';

async function changeable(
  db: Database,
  actor: PersonActor,
  meeting: StoredMeeting | null,
  by: By = 'invitee',
) {
  const levels = meeting && (await levelOn(db, actor, meeting));
  if (!meeting || !levels || !showsEverything(levels.level)) throw noSuchEvent();
  if (!mayChange(by === 'invitee' ? levels.level : levels.asOrganizer)) {
    const organizer = meeting.participants.find((one) => one.role === 'organizer')!;
    throw new Refusal('not-organizer', `Only ${organizer.name} can change this event.`);
  }
  return meeting;
}

/**
 * Holds a meeting that the actor may change, as it was when they read it.
 * @param by whether it is the organizer's alone; else also of those invited, where they may change it
 * @throws Refusal with the present state when `version` is not the present one
 */
export async function lockChangeableMeeting(
  tx: Transaction,
  actor: PersonActor,
  id: string,
  version: number | null,
  by?: By,
): Promise<StoredMeeting> {
  const meeting = await changeable(tx, actor, await lockMeeting(tx, id), by);
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
  const [levels, surroundings, occurrence] = await Promise.all([
    levelOn(db, actor, meeting),
    readSurroundings(db, meeting.id, actor.me.id, wantedResources(meeting)),
    at ?? (isSeries(meeting) ? nextDate(db, meeting, now) : null),
  ]);
  return present(meeting, occurrence, surroundings, levels, actor);
}

/**
 * The date of a series that is shown where none is named: the next one, further ahead than dates are laid out where
 * there is none before, else the last.
 */
async function nextDate(
  db: Database,
  meeting: StoredMeeting,
  now: number,
): Promise<WallTime | null> {
  const laidOut = await readNextOccurrence(db, meeting.id, now);
  return laidOut?.isAhead ? laidOut.at : (nextOccurrence(meeting, now) ?? laidOut?.at ?? null);
}

/** Puts a detail together from what is known. */
export function present(
  meeting: StoredMeeting,
  at: WallTime | null,
  surroundings: EventSurroundings,
  levels: LevelsOn,
  actor: PersonActor,
): EventDetail {
  const detail = projectDetail(detailOf(meeting, at, surroundings), levels, actor);
  if (!detail) throw noSuchEvent();
  return meeting.organizerId === null && detail.allDay
    ? { ...detail, ...wholeDaysIn(detail, actor.me.zone) }
    : detail;
}
