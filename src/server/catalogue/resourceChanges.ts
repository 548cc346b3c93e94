import { allRules } from '../../core/booking/rules.ts';
import type { NewPlace, StandsAgainst } from '../../contract/catalogue.ts';
import { brokenInWords } from '../../core/booking/ruleWords.ts';
import { reassignUnits, brokenByBooking, tooClose } from '../../core/booking/upkeep.ts';
import { counted } from '../../core/counted.ts';
import { grouped } from '../../core/grouped.ts';
import { Refusal } from '../../core/refusal.ts';
import { formatSpan } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import { titleIn, titlesSeen } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { closeNewUnits, moveUnits, readTeamNames, widenClaims } from '../reservations/index.ts';
import {
  readComing,
  readComingClaims,
  type Coming,
  type ComingClaim,
  type KeptPlace,
} from './queries.ts';

/** A place that changes, as it is and as it is to be. */
export interface ResourceChange {
  before: KeptPlace;
  after: NewPlace;
}

/** The bookings to come of places that change, as far as the changes touch them. */
export interface Touched {
  coming: ReadonlyMap<number, readonly Coming[]>;
  claims: ReadonlyMap<number, readonly ComingClaim[]>;
}

const buffersOf = ({ prepareMinutes, clearMinutes }: NewPlace | KeptPlace): string =>
  `${prepareMinutes} ${clearMinutes}`;
const isSpread = ({ before, after }: ResourceChange) => buffersOf(before) !== buffersOf(after);
const isFewer = ({ before, after }: ResourceChange) => after.units < before.units;

/** Whether a change asks which bookings stand. */
export const touchesBookings = (change: ResourceChange): boolean =>
  isSpread(change) || isFewer(change);

/** @param known the bookings to come of these places, where they are read already */
export async function readTouched(
  db: Database,
  changes: readonly ResourceChange[],
  now: number,
  known: Touched['coming'] | null = null,
): Promise<Touched> {
  const idsOf = (some: ResourceChange[]) => some.map(({ before }) => before.id);
  const [coming, claims] = await Promise.all([
    known ?? byPlace(readComing(db, idsOf(changes.filter(isSpread)), now)),
    byPlace(readComingClaims(db, idsOf(changes.filter(isFewer)), now)),
  ]);
  return { coming, claims };
}

const byPlace = async <One extends { placeId: number }>(some: Promise<One[]>) =>
  grouped(await some, (one) => one.placeId);

/** Why the bookings of a place leave no way to change it so; null where they do. */
export function whyNot(
  change: ResourceChange,
  touched: Touched,
  actor: PersonActor,
): Refusal | null {
  const { before, after } = change;
  if (isFewer(change)) {
    const { stuck } = reassignUnits(touched.claims.get(before.id) ?? [], after.units);
    if (stuck.length > 0) return stuckUnits(stuck, after.units, actor);
  }
  if (!isSpread(change)) return null;
  const close = tooClose(touched.coming.get(before.id) ?? [], after);
  return close.length > 0 ? tooCloseTogether(close, actor) : null;
}

/**
 * Gives bookings other units where theirs are no more, and keeps as much free around them as their places
 * say now. Three statements, however many places change.
 */
export function applyToBookings(
  tx: Transaction,
  changes: readonly ResourceChange[],
  { claims }: Touched,
  now: number,
): void {
  const fewer = changes.filter(isFewer);
  moveUnits(
    tx,
    fewer.map(({ before, after }) => ({ id: before.id, units: after.units })),
    fewer.flatMap(
      ({ before, after }) => reassignUnits(claims.get(before.id) ?? [], after.units).moved,
    ),
  );
  closeNewUnits(
    tx,
    changes
      .filter(({ before, after }) => after.units > before.units)
      .map(({ before, after }) => ({ id: before.id, first: before.units + 1, last: after.units })),
    now,
  );
  widenClaims(
    tx,
    changes.filter(isSpread).map(({ before: { id }, after: { prepareMinutes, clearMinutes } }) => ({
      id,
      prepareMinutes,
      clearMinutes,
    })),
    now,
  );
}

/** How rules are said to an actor, and of which bookings they see the title. */
export const readWords = async (
  db: Database,
  changes: readonly ResourceChange[],
  coming: readonly Coming[],
  actor: PersonActor,
) => ({
  clock: actor.me.clock,
  seen: await titlesSeen(
    db,
    actor,
    coming.map((one) => one.eventId),
  ),
  teamNames: await readTeamNames(
    db,
    changes.flatMap(({ after }) => after.rules.teams ?? []),
  ),
});

/** The bookings of a place that stand against what it is to be bound by, and not against what binds it now. */
export function newlyAgainst(
  { before, after }: ResourceChange,
  coming: readonly Coming[],
  words: Awaited<ReturnType<typeof readWords>>,
): StandsAgainst[] {
  return coming.flatMap((one) => {
    const has = { id: one.holderId, teams: one.teams };
    const broken = brokenByBooking(after.rules, one, has, before.zone);
    // What it stands against already is no news.
    const known = brokenByBooking(allRules(before.rules), one, has, before.zone);
    const news = broken.filter(({ rule }) => !known.some((other) => other.rule === rule));
    if (news.length === 0) return [];
    const { start, end, holder } = one;
    return [
      {
        ...{ start, end, holder },
        title: titleIn(words.seen, one),
        broken: news.map((rule) => brokenInWords(rule, { ...words, rules: after.rules })),
      },
    ];
  });
}

const firstOf = (some: readonly Interval[], { me }: PersonActor): string =>
  formatSpan(
    some.reduce((first, one) => (one.start < first.start ? one : first)),
    me.zone,
    me.clock,
  );

const stuckUnits = (stuck: readonly Interval[], units: number, actor: PersonActor): Refusal =>
  new Refusal(
    'units-in-use',
    `${counted(stuck.length, 'booking')} would have no unit left, the first ${firstOf(stuck, actor)}. Nothing was changed.`,
    { fields: [{ field: 'units', message: `must be more than ${units} for what is booked` }] },
  );

const tooCloseTogether = (close: readonly Interval[], actor: PersonActor): Refusal =>
  new Refusal(
    'too-close',
    `${counted(close.length, 'booking')} would be too close to the one before, the first ${firstOf(close, actor)}. Nothing was changed.`,
    {
      fields: [
        {
          field: 'prepareMinutes',
          message: 'must leave room, with clearMinutes, between bookings',
        },
      ],
    },
  );
