import type { InviteeRights } from '../../core/meetings/rights.ts';
import {
  eventLevel,
  isPrivate,
  mayChange,
  seesBusyTimes,
  seesTitle,
  type SharingLevel,
  type Shown,
} from '../../core/availability/busy.ts';
import type { PersonActor } from '../actions/index.ts';
import { isTransaction, type Database } from '../db/transaction.ts';
import { readLevels } from './queries.ts';
import { coordinates, may } from './roles.ts';

/** What decides what somebody may see of an event, wherever it is come across. */
export interface SharedFacts {
  /** Null where somebody elsewhere organizes it: nothing of it is shared with those who take no part. */
  organizerId: number | null;
  visibility: Shown;
  /** Whether the actor takes part, or somebody for whom they act. */
  takesPart: boolean;
  /** What those who take part may do; where it is left out, no more than see it. */
  rights?: Pick<InviteeRights, 'change'>;
}

/** Whose eyes something is seen with. */
export interface Viewer {
  me: Pick<PersonActor['me'], 'id' | 'acts' | 'keeps'>;
}

/** What an actor may see and do of calendars and events; those of people it does not know, nothing. */
export class Levels {
  private constructor(
    private readonly actor: Viewer,
    private readonly levels: ReadonlyMap<number, SharingLevel>,
  ) {}

  /** @param ownerIds whoever's calendars and events are looked at */
  static async of(
    db: Database,
    actor: Viewer,
    ownerIds: readonly (number | null)[],
  ): Promise<Levels> {
    const others = [...new Set(ownerIds)].filter(
      (id): id is number => id !== null && id !== actor.me.id,
    );
    const levels = await readLevelsOnce(db, actor.me.id, others);
    return new Levels(actor, levels.set(actor.me.id, 'acts'));
  }

  /** On somebody's calendar as a whole. */
  calendar(ownerId: number): SharingLevel {
    return this.levels.get(ownerId) ?? 'nothing';
  }

  /** On one event. */
  event({ organizerId, visibility, takesPart, rights }: SharedFacts): SharingLevel {
    const level = organizerId === null ? 'nothing' : this.calendar(organizerId);
    return eventLevel(level, visibility, takesPart, rights?.change);
  }

  /** Whether they answer for its owner what has that visibility, since they coordinate a team of theirs. */
  answersFor(ownerId: number, visibility: Shown): boolean {
    return (
      this.calendar(ownerId) === 'coordinates' &&
      eventLevel('coordinates', visibility, false) === 'edit'
    );
  }

  seesBusyTimes(ownerId: number): boolean {
    return seesBusyTimes(this.calendar(ownerId));
  }

  /** Whether titles are shown on somebody's calendar at all, events of others aside. */
  showsTitles(ownerId: number): boolean {
    return seesTitle(this.calendar(ownerId), 'default');
  }

  /** Whether an event of that visibility shows its title on somebody's calendar. */
  showsOn(ownerId: number, visibility: Shown): boolean {
    return seesTitle(this.calendar(ownerId), visibility);
  }

  /** Who has a place is told to those who keep the places, and to those who may see their calendar. */
  seesHolder({
    organizerId,
    visibility,
    takesPart,
    resourceId,
  }: Pick<SharedFacts, 'organizerId' | 'visibility' | 'takesPart'> & {
    resourceId: number;
  }): boolean {
    if (takesPart || may(this.actor, 'see', resourceId)) return true;
    if (organizerId === null) return false;
    return visibility === 'hidden'
      ? mayChange(this.calendar(organizerId))
      : this.seesBusyTimes(organizerId);
  }
}

/** What was read in a transaction, by viewer and owner: an action asks for the same again and again. */
const readIn = new WeakMap<Database, Map<string, SharingLevel | null>>();

/** What a viewer may see of others, read once in each transaction; out of one it is read anew each time. */
async function readLevelsOnce(
  db: Database,
  viewerId: number,
  ownerIds: readonly number[],
): Promise<Map<number, SharingLevel>> {
  const known = isTransaction(db)
    ? (readIn.get(db) ?? new Map<string, SharingLevel | null>())
    : null;
  if (known) readIn.set(db, known);
  const keyOf = (id: number) => `${viewerId} ${id}`;
  const missing = ownerIds.filter((id) => !known?.has(keyOf(id)));
  const read = missing.length > 0 ? await readLevels(db, viewerId, missing) : new Map();
  if (!known) return read;
  for (const id of missing) known.set(keyOf(id), read.get(id) ?? null);
  return new Map(
    ownerIds.flatMap((id): [number, SharingLevel][] => {
      const level = known.get(keyOf(id));
      return level ? [[id, level]] : [];
    }),
  );
}

/** Whether an actor, or somebody for whom they act, is among some people. */
export const takesPart = (actor: PersonActor, people: readonly (number | null)[]): boolean =>
  people.some((id) => id !== null && actor.principals.includes(id));

/**
 * Whether an actor is shown a meeting since it is theirs, of somebody for whom they act, or, where it is not private,
 * of somebody whose team they coordinate.
 */
export const isShownIt = (
  actor: PersonActor,
  { people, visibility }: { people: readonly (number | null)[]; visibility: Shown },
): boolean =>
  takesPart(actor, people) ||
  (!isPrivate(visibility) &&
    visibility !== 'draft' &&
    people.some((id) => id !== null && coordinates(actor, id)));
