import { DAY, type Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { Database } from '../db/transaction.ts';

/** A week's limit looks at the weeks of a booking, on any clock. */
export const WEEK = 8 * DAY;

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
