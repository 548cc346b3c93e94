import { claimedTime } from '../../core/booking/booking.ts';
import { stateAfter, timeKept } from '../../core/booking/presence.ts';
import { freeUnit, type UnitClaim } from '../../core/booking/units.ts';
import { NearIntervals } from '../../core/time/near.ts';
import { breather, type Actor } from '../actions/index.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { contains, DAY, type Interval } from '../../core/time/interval.ts';
import type { Transaction } from '../db/transaction.ts';
import {
  lockResources,
  readClaims,
  readRequested,
  readReservations,
  writeReservations,
  type BookableResource,
  type HeldReservation,
  type Placed,
} from './queries.ts';
import { refuseBroken } from './rules.ts';
import type { Wish } from './wish.ts';

/** Wishes for which every unit is taken. */
export class ResourcesTaken extends Refusal {
  constructor(
    readonly wishes: readonly Omit<Wish, 'occurrenceId'>[],
    /** The meeting that wished, everything that it wants, and how many people come. */
    readonly meeting: { id: string; people: number; resources: readonly number[] },
  ) {
    super('resource-taken', 'A resource is taken at that time. Nothing was booked.', {
      fields: [{ field: 'resources', message: 'must be free at that time' }],
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

interface Reserving {
  eventId: string;
  resources: HeldResources;
  wishes: readonly Wish[];
  /** Whether there can be reservations already. */
  isNew: boolean;
  /** Cancelled: what is reserved is kept, but holds nothing. */
  released: boolean;
  /** Whoever asks for it, and who will have it: the rules of the places bind them. */
  by: { actor: Actor; holderId: number | null };
  now: number;
}

/** What came of wishes. */
export interface Reserved {
  /** Those for which no unit is free; they are reserved nothing. */
  taken: Wish[];
  /** The resources to which a steward has to agree for what is new, by id. */
  asked: number[];
}

/**
 * Brings the reservations of an event in line with what it wishes. Those that stay the same keep
 * their rows and their claims; a moved one keeps its unit if it can.
 * What somebody left early stays others' as long as its time stays.
 */
export async function reserve(
  tx: Transaction,
  { eventId, resources, wishes, isNew, released, by, now }: Reserving,
): Promise<Reserved> {
  const held = isNew ? [] : await readReservations(tx, eventId);
  if (released) {
    const ids = held.map((one) => one.id);
    const staysAgreed = by.actor.kind === 'person' && by.actor.me.role === 'staff';
    writeReservations(tx, { made: [], moved: [], dropped: [], released: ids, staysAgreed }, now);
    return { taken: [], asked: [] };
  }
  const keyOf = (one: { occurrenceId: number; resourceId: number }) =>
    `${one.occurrenceId} ${one.resourceId}`;
  const before = new Map(held.map((one) => [keyOf(one), one]));
  const wanted = new Set(wishes.map(keyOf));
  const dropped = held.filter((one) => !wanted.has(keyOf(one)));
  const placed = wishes.map((wish): Changed => {
    const held = before.get(keyOf(wish));
    const kept = timeKept(wish, held?.leftAt ?? null);
    const span = claimedTime(kept, resources.get(wish.resourceId)!);
    // Whoever left is back where its time is another.
    const leftAt = kept.end < wish.end ? held!.leftAt : null;
    return { wish, span, held, leftAt };
  });
  const breathe = breather();
  const changed = placed.filter(({ span, held: one }) => !one || !isAt(one, span));
  refuseOverlaps(changed, resources);
  await breathe();
  const asked = changed.flatMap(({ wish }) => (wish.end > now || isNew ? wish : []));
  refuseRetired(asked, resources, by.actor);
  await refuseBroken(tx, asked, wishes, resources, { ...by, eventId, now });
  const { booked, taken } = changed.length
    ? await pickUnits(tx, changed, resources, dropped)
    : { booked: [], taken: [] };
  const agrees = await agreement(tx, eventId, changed, resources, by.actor);
  await breathe();
  const standing = booked.map((one) => ({ ...one, placed: withState(one, agrees) }));
  await breathe();
  writeReservations(
    tx,
    {
      made: standing.filter((one) => !one.held).map((one) => one.placed),
      moved: standing.flatMap(({ held: one, leftAt, placed: at }) =>
        one ? [{ id: one.id, leftAt, agreesAnew: agrees(at.resourceId), ...at }] : [],
      ),
      // One that is taken at its new time is not kept at its old one.
      dropped: [...dropped, ...taken.flatMap((one) => one.held ?? [])].map((one) => one.id),
      released: [],
      staysAgreed: true,
    },
    now,
  );
  const asking = standing.filter(
    ({ placed: { state }, held: one }) => state === 'requested' && one?.state !== 'requested',
  );
  return {
    taken: taken.map((one) => one.wish),
    asked: [...new Set(asking.map(({ wish }) => wish.resourceId))],
  };
}

/**
 * Whether nobody has to agree to a booking of a resource: stewards agree to their own, and to what they
 * change. What a job lays out of a series is agreed to as the rest of it is.
 */
async function agreement(
  tx: Transaction,
  eventId: string,
  changed: readonly Changed[],
  resources: HeldResources,
  actor: Actor,
): Promise<(resourceId: number) => boolean> {
  const bound = [...new Set(changed.map(({ wish }) => wish.resourceId))].filter(
    (id) => resources.get(id)!.rules.approval,
  );
  if (bound.length === 0) return () => true;
  if (actor.kind === 'person') {
    const isSteward = actor.me.role !== 'staff';
    return (id) => isSteward || !bound.includes(id);
  }
  const open = await readRequested(tx, eventId);
  return (id) => !open.includes(id);
}

/** Where something is put, and as what. */
function withState(
  { wish, span, held, placed }: Changed & { placed: Omit<Placed, 'state'> },
  agrees: (resourceId: number) => boolean,
): Placed {
  const isPart =
    held !== undefined &&
    held.start !== null &&
    held.end !== null &&
    held.start <= span.start &&
    span.end <= held.end;
  const isLater = held?.start !== span.start;
  const before = held?.agreed ?? null;
  const agreed = agrees(wish.resourceId) || (before !== null && contains(before, wish));
  return { ...placed, state: stateAfter(held ?? null, { isPart, isLater, agreed }) };
}

/** @throws Refusal naming the first place that nobody books any more */
function refuseRetired(wishes: readonly Wish[], resources: HeldResources, { kind }: Actor): void {
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

interface Changed {
  wish: Wish;
  span: Interval;
  held: HeldReservation | undefined;
  /** When somebody left it, where that still holds. */
  leftAt: number | null;
}

async function pickUnits(
  tx: Transaction,
  changed: readonly Changed[],
  resources: ReadonlyMap<number, { units: number }>,
  dropped: readonly HeldReservation[],
) {
  const ids = [...new Set(changed.map(({ wish }) => wish.resourceId))];
  const window = {
    start: Math.min(...changed.map(({ span }) => span.start)) - DAY,
    end: Math.max(...changed.map(({ span }) => span.end)) + DAY,
  };
  // What is moved or given up does not stand in its own way.
  const own = new Set([
    ...changed.flatMap(({ held }) => held?.id ?? []),
    ...dropped.map((d) => d.id),
  ]);
  const claims = new Map(ids.map((id) => [id, new NearIntervals<UnitClaim>()]));
  const breathe = breather();
  for (const claim of await readClaims(tx, ids, window)) {
    await breathe();
    if (claim.reservationId === null || !own.has(claim.reservationId))
      claims.get(claim.resourceId)!.add(claim);
  }
  const booked: (Changed & { placed: Omit<Placed, 'state'> })[] = [];
  const taken: Changed[] = [];
  for (const one of changed) {
    await breathe();
    const { wish, span, held } = one;
    const present = claims.get(wish.resourceId)!;
    const { units } = resources.get(wish.resourceId)!;
    const unit = freeUnit(present.overlapping(span), span, units, held?.unit);
    if (unit === null) {
      taken.push(one);
      continue;
    }
    present.add({ unit, ...span });
    const { occurrenceId, resourceId } = wish;
    booked.push({ ...one, placed: { occurrenceId, resourceId, unit, ...span } });
  }
  return { booked, taken };
}
