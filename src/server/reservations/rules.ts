import { brokenInWords } from '../../core/booking/ruleWords.ts';
import { brokenRules, type BrokenRule } from '../../core/booking/rules.ts';
import { Refusal } from '../../core/refusal.ts';
import { DAY, type Interval } from '../../core/time/interval.ts';
import { NearIntervals } from '../../core/time/near.ts';
import { breather, type Actor } from '../actions/index.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import type { BookableResource } from './queries.ts';
import type { ReservationRequest } from './request.ts';
import { may } from '../access/index.ts';

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

/** For more dates than this nobody reads what each breaks. */
const MOST_NAMED = 3;
const MOST_TOLD = 60;

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
  if (actor.kind === 'system' || may(actor, 'exceed', 'rules')) return;
  const bound = wishes.filter(({ resourceId }) => isBound(resources.get(resourceId)!));
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
  const further = named.length > MOST_NAMED ? ` And ${named.length - MOST_NAMED} more such.` : '';
  const which = dates > 1 ? ` It is so on ${dates} of ${all.length} dates.` : '';
  throw new Refusal(
    'against-rules',
    `${named.slice(0, MOST_NAMED).join(' ')}${further}${which} Nothing was booked.`,
    {
      fields: [{ field: 'resources', message: 'must be booked as their rules allow' }],
      broken: refused.slice(0, MOST_TOLD),
    },
  );
}

/** A week's limit looks at the weeks of a booking, on any clock. */
const WEEK = 8 * DAY;

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

/** The teams of whoever books. */
export async function readTeams(db: Database, personId: number | null): Promise<number[]> {
  const { rows } = await db.query<{ id: number }>(
    'select team_id as id from team_member where person_id = $1',
    [personId],
  );
  return rows.map((row) => row.id);
}

/** The names of teams that rules speak of, by id. */
export async function readTeamNames(
  tx: Database,
  ids: readonly number[],
): Promise<Map<number, string>> {
  if (ids.length === 0) return new Map();
  const { rows } = await tx.query<{ id: number; name: string }>(
    'select id, name from team where id = any($1)',
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row.name]));
}

/**
 * What somebody has of places in the weeks around a time, by place; the bookings' own times.
 * @param except the events that are left out, or one occurrence of theirs
 */
export async function readHad(
  db: Database,
  holderId: number | null,
  resourceIds: readonly number[],
  span: Interval,
  except: { eventIds: readonly string[]; occurrence?: WallTime | undefined } | null,
): Promise<Map<number, Interval[]>> {
  const had = new Map<number, Interval[]>();
  if (resourceIds.length === 0 || holderId === null) return had;
  const { rows } = await db.query<Interval & { resourceId: number }>(
    `select claim.subject_id as "resourceId", occurrence.starts_at as start,
            occurrence.ends_at as "end"
     from claim
     join occurrence on occurrence.id = claim.occurrence_id
     join event on event.id = occurrence.event_id
     where claim.subject_id = any($1) and claim.exclusive and claim.during && tstzrange($2, $3)
       and event.organizer_id = $4
       and (event.id <> all($5::uuid[]) or occurrence.recurrence_at <> $6::timestamp)`,
    [
      [...new Set(resourceIds)],
      new Date(span.start - WEEK),
      new Date(span.end + WEEK),
      holderId,
      except?.eventIds ?? [],
      except?.occurrence ?? null,
    ],
  );
  for (const { resourceId, ...span } of rows) {
    const there = had.get(resourceId);
    if (there) there.push(span);
    else had.set(resourceId, [span]);
  }
  return had;
}
