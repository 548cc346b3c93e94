import { claimedTime } from '../../core/booking/booking.ts';
import { freeUnit, type UnitClaim } from '../../core/booking/units.ts';
import type { Actor } from '../actions/index.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { DAY, type Interval } from '../../core/time/interval.ts';
import type { Transaction } from '../db/transaction.ts';
import {
  lockResources,
  readClaims,
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

/**
 * Brings the reservations of an event in line with what it wishes. Those that stay the same keep
 * their rows and their claims; a moved one keeps its unit if it can.
 * @returns wishes for which no unit is free; they are reserved nothing
 */
export async function reserve(
  tx: Transaction,
  { eventId, resources, wishes, isNew, released, by, now }: Reserving,
): Promise<Wish[]> {
  const held = isNew ? [] : await readReservations(tx, eventId);
  if (released) {
    writeReservations(
      tx,
      { made: [], moved: [], dropped: [], released: held.map((one) => one.id) },
      now,
    );
    return [];
  }
  const keyOf = (one: { occurrenceId: number; resourceId: number }) =>
    `${one.occurrenceId} ${one.resourceId}`;
  const before = new Map(held.map((one) => [keyOf(one), one]));
  const wanted = new Set(wishes.map(keyOf));
  const dropped = held.filter((one) => !wanted.has(keyOf(one)));
  const placed = wishes.map((wish) => ({
    wish,
    span: claimedTime(wish, resources.get(wish.resourceId)!),
    held: before.get(keyOf(wish)),
  }));
  const changed = placed.filter(({ span, held: one }) => !one || !isAt(one, span));
  refuseOverlaps(changed, resources);
  const asked = changed.flatMap(({ wish }) => (wish.end > now || isNew ? wish : []));
  await refuseBroken(tx, asked, wishes, resources, { ...by, eventId, now });
  const { booked, taken } = changed.length
    ? await pickUnits(tx, changed, resources, dropped)
    : { booked: [], taken: [] };
  writeReservations(
    tx,
    {
      made: booked.filter((one) => !one.held).map((one) => one.placed),
      moved: booked.flatMap((one) => (one.held ? [{ id: one.held.id, ...one.placed }] : [])),
      // One that is taken at its new time is not kept at its old one.
      dropped: [...dropped, ...taken.flatMap((one) => one.held ?? [])].map((one) => one.id),
      released: [],
    },
    now,
  );
  return taken.map((one) => one.wish);
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
  const claims = new Map<number, UnitClaim[]>(ids.map((id) => [id, []]));
  for (const claim of await readClaims(tx, ids, window)) {
    if (!own.has(claim.reservationId)) claims.get(claim.resourceId)!.push(claim);
  }
  const booked: (Changed & { placed: Placed })[] = [];
  const taken: Changed[] = [];
  for (const one of changed) {
    const { wish, span, held } = one;
    const present = claims.get(wish.resourceId)!;
    const unit = freeUnit(present, span, resources.get(wish.resourceId)!.units, held?.unit);
    if (unit === null) {
      taken.push(one);
      continue;
    }
    present.push({ unit, ...span });
    const { occurrenceId, resourceId } = wish;
    booked.push({ ...one, placed: { occurrenceId, resourceId, unit, ...span } });
  }
  return { booked, taken };
}
