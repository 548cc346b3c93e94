import type { ThingKind } from '../../core/facts.ts';
import type { Database } from '../db/transaction.ts';
import type { LoggedFact } from './queries.ts';

/** What of the log is wanted. */
export interface LogFilter {
  /** Whoever did it, or in whose name. */
  person: number | null;
  /** What it was done to; null for everything. */
  what: ThingKind | 'meeting' | null;
  /** Epoch milliseconds, half-open; null for no bound. */
  from: number | null;
  to: number | null;
  /** Only what was written before this number. */
  before: number | null;
  most: number;
}

/** Something that happened, to whatever it did. */
export interface HouseFact extends LoggedFact {
  thing: ThingKind | null;
}

/**
 * What happened in the house, the latest first. Of a meeting it says no more than what kind of thing was done: which
 * one is for those to know who may see it.
 */
export async function readHouseLog(
  db: Database,
  { person, what, from, to, before, most }: LogFilter,
): Promise<HouseFact[]> {
  const conditions = [
    '($1::bigint is null or fact.id < $1)',
    // By the number of the first fact of a time, so that the log is read along its numbers.
    `($2::timestamptz is null or fact.at >= $2)`,
    `($3::timestamptz is null or fact.at < $3)`,
    ...(person === null
      ? ['$4::int is null']
      : [`(fact.actor_id = $4 or (fact.details->>'for')::int = $4)`]),
    ...(what === null
      ? ['$5::text is null']
      : what === 'meeting'
        ? [`$5::text is not null and fact.event_id is not null`]
        : ['fact.thing = $5']),
  ];
  const { rows } = await db.query<HouseFact>(
    `select fact.id::int, fact.at, fact.kind, fact.thing,
            case when fact.thing is not null then fact.details else '{}' end as details,
            actor.name as actor, principal.name as "actedFor", fact.revision_id::int as change
     from fact
     left join subject actor on actor.id = fact.actor_id
     left join subject principal on principal.id = (fact.details->>'for')::int
     where ${conditions.join(' and ')}
     order by fact.id desc limit $6`,
    [
      before,
      from === null ? null : new Date(from),
      to === null ? null : new Date(to),
      person,
      what,
      most,
    ],
  );
  return rows;
}
