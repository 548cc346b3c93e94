import { brokenInWords } from '../../core/booking/ruleWords.ts';
import { brokenRules, type BrokenRule } from '../../core/booking/rules.ts';
import { Refusal } from '../../core/refusal.ts';
import { type Interval } from '../../core/time/interval.ts';
import { NearIntervals } from '../../core/time/near.ts';
import { breather, type Actor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import type { BookableResource } from './queries.ts';
import { readHad, readTeamNames, readTeams, WEEK } from './ruleQueries.ts';
import type { ReservationRequest } from './request.ts';
import { may } from '../access/index.ts';
import { MOST_BREAKS_NAMED, MOST_BREAKS_TOLD } from './limits.ts';

/** Bookings of one holder that are judged together. */
export interface Judged {
  /** Who will have them; null for nobody of this installation. */
  holderId: number | null;
  /** The events that they are of. */
  eventIds: readonly string[];
  /** Those that are new, or at another time. */
  wishes: readonly ReservationRequest[];
  /** Every wish of the same events. */
  all: readonly ReservationRequest[];
}

/** A date for which a place cannot be had by its rules. */
interface RefusedDate {
  resourceId: number;
  start: number;
  broken: BrokenRule[];
}

/**
 * Refuses wishes that break the rules of their places. What is laid out by a job, or comes by mail, was
 * judged when it was asked for.
 * @throws Refusal naming what each date breaks
 */
export async function refuseBroken(
  tx: Transaction,
  { holderId, eventIds, wishes, all }: Judged,
  resources: ReadonlyMap<number, BookableResource>,
  { actor, now }: { actor: Actor; now: number },
): Promise<void> {
  if (actor.kind === 'system') return;
  const bound = wishes.filter(
    ({ resourceId }) => isBound(resources.get(resourceId)!) && !may(actor, 'exceed', resourceId),
  );
  if (bound.length === 0) return;
  const rulesOf = ({ resourceId }: ReservationRequest) => resources.get(resourceId)!.rules;
  const limited = bound.filter((wish) => rulesOf(wish).weeklyMinutes !== null);
  const [teams, has] = await Promise.all([
    bound.some((wish) => rulesOf(wish).teams !== null) ? readTeams(tx, holderId) : [],
    readHad(
      tx,
      holderId,
      limited.map((wish) => wish.resourceId),
      {
        start: Math.min(...limited.map((wish) => wish.start)),
        end: Math.max(...limited.map((wish) => wish.end)),
      },
      { eventIds },
    ),
  ]);
  const had = havingOf(limited, all, has);
  const refused: RefusedDate[] = [];
  const breathe = breather();
  for (const wish of bound) {
    await breathe();
    const { resourceId, start } = wish;
    const { rules, zone } = resources.get(resourceId)!;
    const week = { start: wish.start - WEEK, end: wish.end + WEEK };
    const near =
      had
        .get(resourceId)
        ?.overlapping(week)
        .filter((one) => one !== wish) ?? [];
    const booker = { id: holderId, isSteward: false, teams, has: near };
    const broken = brokenRules(rules, wish, booker, { zone, now });
    if (broken.length > 0) refused.push({ resourceId, start, broken });
  }
  if (refused.length === 0) return;
  const asked = refused.flatMap(({ resourceId }) => resources.get(resourceId)!.rules.teams ?? []);
  const teamNames = await readTeamNames(tx, asked);
  const sentences = refused.flatMap(({ resourceId, broken }) => {
    const { name, rules } = resources.get(resourceId)!;
    return broken.map(
      (one) => `${name} ${brokenInWords(one, { clock: actor.me.clock, rules, teamNames })}.`,
    );
  });
  const named = [...new Set(sentences)];
  const dates = new Set(refused.map(({ start }) => start)).size;
  const further =
    named.length > MOST_BREAKS_NAMED ? ` And ${named.length - MOST_BREAKS_NAMED} more such.` : '';
  const which = dates > 1 ? ` It is so on ${dates} of ${all.length} dates.` : '';
  throw new Refusal(
    'against-rules',
    `${named.slice(0, MOST_BREAKS_NAMED).join(' ')}${further}${which} Nothing was booked.`,
    {
      fields: [{ field: 'resources', message: 'must be booked as their rules allow' }],
      broken: refused.slice(0, MOST_BREAKS_TOLD),
    },
  );
}

/** What somebody has, and would have by the meeting, of the places that have a week's limit; by place. */
function havingOf(
  limited: readonly ReservationRequest[],
  all: readonly ReservationRequest[],
  has: ReadonlyMap<number, readonly Interval[]>,
): Map<number, NearIntervals<Interval>> {
  const had = new Map(
    [...new Set(limited.map((wish) => wish.resourceId))].map((id) => [
      id,
      new NearIntervals(has.get(id) ?? []),
    ]),
  );
  for (const wish of all) had.get(wish.resourceId)?.add(wish);
  return had;
}

const isBound = ({
  rules: { approval: _approval, graceMinutes: _grace, hourlyPrice: _price, ...bounds },
}: BookableResource): boolean => Object.values(bounds).some((bound) => bound !== null);
