import { claimedTime } from '../../core/booking/booking.ts';
import { stateAfter, timeKept } from '../../core/booking/presence.ts';
import { breather, type Actor } from '../actions/index.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { contains, type Interval } from '../../core/time/interval.ts';
import type { Transaction } from '../db/transaction.ts';
import {
  lockResources,
  readRequestedOf,
  readReservations,
  type BookableResource,
  type HeldReservation,
} from './queries.ts';
import { refuseBroken, type Judged } from './rules.ts';
import { pickUnits, readTaken, spanned, type Changed } from './units.ts';
import type { ReservationRequest } from './request.ts';
import { writeReservations, type Placed } from './writeQueries.ts';
import { may } from '../access/index.ts';
import { FEW_REQUESTS } from './limits.ts';

/** Wishes for which every unit is taken. */
export class ResourcesTaken extends Refusal {
  constructor(
    readonly wishes: readonly Omit<ReservationRequest, 'occurrenceId'>[],
    /** The meeting that wished, everything that it wants, and how many people come. */
    readonly meeting: { id: string; people: number; resources: readonly number[] },
    field = { field: 'resources', message: 'must be free at that time' },
  ) {
    super('resource-taken', 'A resource is taken at that time. Nothing was booked.', {
      fields: [field],
    });
  }
}

/** Resources that are held against other bookings until the transaction ends, by id. */
export type HeldResources = ReadonlyMap<number, BookableResource>;

/**
 * Holds resources for the rest of the transaction.
 * @throws Refusal naming the first id that is no resource's
 */
export async function holdResources(
  tx: Transaction,
  ids: readonly number[],
  field: (index: number) => string = (k) => `resources.${k}`,
): Promise<HeldResources> {
  const rows = ids.length > 0 ? await lockResources(tx, [...new Set(ids)]) : [];
  const held = new Map(rows.map((one) => [one.id, one]));
  const unknown = ids.findIndex((id) => !held.has(id));
  if (unknown >= 0) {
    throw invalid([{ field: field(unknown), message: 'must be the id of a resource' }]);
  }
  return held;
}

/** What one event wants of resources. */
export interface Wanting {
  eventId: string;
  /** Who will have them; null for nobody of this installation. */
  holderId: number | null;
  wishes: readonly ReservationRequest[];
  /** Whether there can be no reservations yet. */
  isNew: boolean;
  /** Cancelled: what is reserved is kept, but holds nothing. */
  released: boolean;
}

interface Reserving {
  /** Holds the resources that are wanted against other bookings, until the transaction ends. */
  hold: () => Promise<HeldResources>;
  /** Whoever asks: the rules of the places bind them. */
  actor: Actor;
  now: number;
  /** Whether a steward who does it agrees to nothing by that. */
  agreesToNothing?: boolean | undefined;
}

/** What came of an event's wishes. */
export interface Reserved {
  /** Those for which no unit is free; they are reserved nothing. */
  taken: ReservationRequest[];
  /** The resources to which a steward has to agree for what is new, by id. */
  asked: number[];
}

/**
 * Brings the reservations of events in line with what they wish, all together: what one of them gives up is
 * free for the next. Those that stay the same keep their rows and their claims; a moved one keeps its unit if
 * it can. What somebody left early stays others' as long as its time stays.
 * @returns what came of each, in their order
 */
export async function reserve(
  tx: Transaction,
  wanting: readonly Wanting[],
  { hold, actor, now, agreesToNothing = false }: Reserving,
): Promise<Reserved[]> {
  const live = wanting.filter((one) => !one.released);
  const wishes = live.flatMap((one) => one.wishes);
  const old = wanting.filter((one) => !one.isNew).map((one) => one.eventId);
  // Others are held up from here on: what is read is asked for in one piece.
  const [resources, held, claimed] = await Promise.all([
    wishes.length > 0 ? hold() : NOTHING_HELD,
    readReservations(tx, old),
    wishes.length > 0 && wishes.length <= FEW_REQUESTS ? readTaken(tx, wishes) : null,
  ]);
  const of = (one: Wanting) => held.get(one.eventId) ?? [];
  const plans = wanting.map((one) => planFor(one, of(one), resources));
  const breathe = breather();
  for (const { changed } of plans) {
    refuseOverlaps(changed, resources);
    await breathe();
  }
  const anew = plans.map(({ changed, isNew }) =>
    changed.flatMap(({ wish }) => (wish.end > now || isNew ? wish : [])),
  );
  refuseRetired(anew.flat(), resources, actor);
  for (const judged of byHolder(plans, anew))
    await refuseBroken(tx, judged, resources, { actor, now });
  const changed = plans.flatMap((one) => one.changed);
  const dropped = plans.flatMap((one) => one.dropped);
  const claims = changed.length > 0 ? (claimed ?? (await readTaken(tx, changed.map(spanned)))) : [];
  const { booked, taken } = await pickUnits(changed, resources, dropped, claims);
  const isAgreeing = (resourceId: number) => !agreesToNothing && may(actor, 'exceed', resourceId);
  const agrees = await agreement(tx, plans, resources, { actor, isAgreeing });
  const standing = booked.map((one) => ({ ...one, placed: withState(one, agrees) }));
  await breathe();
  writeReservations(
    tx,
    {
      made: standing.filter((one) => !one.held).map((one) => one.placed),
      moved: standing.flatMap((one) =>
        one.held
          ? [{ id: one.held.id, leftAt: one.leftAt, agreesAnew: agrees(one), ...one.placed }]
          : [],
      ),
      // One that is taken at its new time is not kept at its old one.
      dropped: [...dropped, ...taken.flatMap((one) => one.held ?? [])].map((one) => one.id),
      released: wanting
        .filter((one) => one.released)
        .flatMap((one) => of(one))
        .map(({ id, resourceId }) => ({ id, staysAgreed: !isAgreeing(resourceId) })),
    },
    now,
  );
  return plans.map(({ eventId }) => {
    const asking = standing.filter(
      (one) =>
        one.eventId === eventId &&
        one.placed.state === 'requested' &&
        one.held?.state !== 'requested',
    );
    return {
      taken: taken.filter((one) => one.eventId === eventId).map((one) => one.wish),
      asked: [...new Set(asking.map(({ wish }) => wish.resourceId))],
    };
  });
}

const NOTHING_HELD: HeldResources = new Map();

/** What is to become of one event's reservations. */
interface Plan extends Wanting {
  /** Wishes that have nothing yet, or something at another time. */
  changed: Changed[];
  /** What is wished no more. */
  dropped: HeldReservation[];
}

function planFor(one: Wanting, held: readonly HeldReservation[], resources: HeldResources): Plan {
  if (one.released) return { ...one, changed: [], dropped: [] };
  const { eventId, holderId, wishes } = one;
  const keyOf = ({
    occurrenceId,
    resourceId,
  }: Pick<ReservationRequest, 'occurrenceId' | 'resourceId'>) => `${occurrenceId} ${resourceId}`;
  const before = new Map(held.map((there) => [keyOf(there), there]));
  const wanted = new Set(wishes.map(keyOf));
  const placed = wishes.map((wish): Changed => {
    const there = before.get(keyOf(wish));
    const kept = timeKept(wish, there?.leftAt ?? null);
    const span = claimedTime(kept, resources.get(wish.resourceId)!);
    // Whoever left is back where its time is another.
    const leftAt = kept.end < wish.end ? there!.leftAt : null;
    return { eventId, holderId, wish, span, held: there, leftAt };
  });
  return {
    ...one,
    changed: placed.filter(({ span, held: there }) => !there || !isAt(there, span)),
    dropped: held.filter((there) => !wanted.has(keyOf(there))),
  };
}

/** Bookings as their rules judge them: those that one holder will have, all together. */
function byHolder(
  plans: readonly Plan[],
  anew: readonly (readonly ReservationRequest[])[],
): Judged[] {
  const judged = new Map<number | null, Judged>();
  for (const [k, { holderId, eventId, wishes }] of plans.entries()) {
    const before = judged.get(holderId);
    judged.set(holderId, {
      holderId,
      eventIds: [...(before?.eventIds ?? []), eventId],
      wishes: [...(before?.wishes ?? []), ...anew[k]!],
      all: [...(before?.all ?? []), ...wishes],
    });
  }
  return [...judged.values()].filter((one) => one.wishes.length > 0);
}

/**
 * Whether nobody has to agree to a booking of a resource: stewards agree to their own, and to what they
 * change. What a job lays out of a series is agreed to as the rest of it is.
 */
async function agreement(
  tx: Transaction,
  plans: readonly Plan[],
  resources: HeldResources,
  { actor, isAgreeing }: { actor: Actor; isAgreeing: (resourceId: number) => boolean },
): Promise<(one: Changed) => boolean> {
  const isBound = ({ wish }: Changed) => resources.get(wish.resourceId)!.rules.approval;
  const bound = plans.filter(({ changed }) => changed.some(isBound)).map((one) => one.eventId);
  if (bound.length === 0) return () => true;
  if (actor.kind === 'person') return (one) => isAgreeing(one.wish.resourceId) || !isBound(one);
  const open = await readRequestedOf(tx, bound);
  return (one) => !open.get(one.eventId)?.includes(one.wish.resourceId);
}

/** Where something is put, and as what. */
function withState(
  one: Changed & { placed: Omit<Placed, 'state'> },
  agrees: (one: Changed) => boolean,
): Placed {
  const { wish, span, held, placed } = one;
  const isPart =
    held !== undefined &&
    held.start !== null &&
    held.end !== null &&
    held.start <= span.start &&
    span.end <= held.end;
  const isLater = held?.start !== span.start;
  const before = held?.agreed ?? null;
  const agreed = agrees(one) || (before !== null && contains(before, wish));
  return { ...placed, state: stateAfter(held ?? null, { isPart, isLater, agreed }) };
}

/** @throws Refusal naming the first place that nobody books any more */
function refuseRetired(
  wishes: readonly ReservationRequest[],
  resources: HeldResources,
  { kind }: Actor,
): void {
  const gone = wishes.find(({ resourceId }) => resources.get(resourceId)!.isRetired);
  // What a job lays out finds it taken, and says so.
  if (!gone || kind !== 'person') return;
  const { name } = resources.get(gone.resourceId)!;
  throw new Refusal('place-retired', `${name} is retired: nobody books it any more.`, {
    fields: [{ field: 'resources', message: 'must be places that are in use' }],
  });
}

/**
 * Two dates of one series cannot have the same unit at once.
 * @throws Refusal naming the first two dates that would
 */
function refuseOverlaps(changed: readonly Changed[], resources: HeldResources): void {
  const inUse = new Map<number, Changed[]>();
  for (const one of [...changed].sort((a, b) => a.span.start - b.span.start)) {
    const { resourceId } = one.wish;
    const open = (inUse.get(resourceId) ?? []).filter(({ span }) => span.end > one.span.start);
    if (open.length >= resources.get(resourceId)!.units) {
      const [first, second] = [open[0]!, one].map(({ wish }) => wish.recurrenceId?.slice(0, 10));
      const { name } = resources.get(resourceId)!;
      throw invalid([
        {
          field: 'resources',
          message: `must not be needed twice at once by the series itself: ${name} would be, by its dates of ${first} and ${second}`,
        },
      ]);
    }
    inUse.set(resourceId, [...open, one]);
  }
}

const isAt = (held: HeldReservation, span: Interval) =>
  held.start === span.start && held.end === span.end;
