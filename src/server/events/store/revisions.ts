import type { Revision } from '../../../core/meetings/undo.ts';
import type { Database, Transaction } from '../../db/transaction.ts';
import type { ChangeOf } from '../../facts/index.ts';

const READ = `taken.version, taken.edits, taken.split_off as "splitOff",
       coalesce((select jsonb_agg(edits order by version) from revision later
                 where later.event_id = taken.event_id and later.version > taken.version), '[]')
         as later`;

/** What changes of several events left behind and who made them, by the event's id; one of each event. */
export async function readRevisions(
  db: Database,
  changes: readonly ChangeOf[],
): Promise<Map<string, Revision & { by: number | null }>> {
  const { rows } = await db.query<Revision & { eventId: string; by: number | null }>(
    `select taken.event_id as "eventId", taken.by_id as by, ${READ}
     from unnest($1::uuid[], $2::int[]) as asked (id, version)
     join revision taken on taken.event_id = asked.id and taken.version = asked.version`,
    [changes.map((one) => one.id), changes.map((one) => one.version)],
  );
  return new Map(rows.map(({ eventId, ...revision }) => [eventId, revision]));
}

/** Takes them off the pile. */
export function dropRevisions(tx: Transaction, changes: readonly ChangeOf[]): void {
  if (changes.length === 0) return;
  tx.send(
    `delete from revision using unnest($1::uuid[], $2::int[]) as done (id, version)
     where event_id = done.id and revision.version = done.version`,
    [changes.map((one) => one.id), changes.map((one) => one.version)],
  );
}

/**
 * Takes a revision of an event off the pile.
 * @param version the one that the change made; null for the latest
 * @returns null when there is none
 */
export async function takeRevision(
  tx: Transaction,
  eventId: string,
  version: number | null,
): Promise<Revision | null> {
  const { rows } = await tx.query<Revision>(
    `delete from revision taken where event_id = $1 and version = coalesce($2, (
       select max(version) from revision where event_id = $1))
     returning ${READ}`,
    [eventId, version],
  );
  return rows[0] ?? null;
}

/** Whether an event was changed in a way that can be taken back. */
export async function hasRevisions(db: Database, eventId: string): Promise<boolean> {
  const { rows } = await db.query('select 1 from revision where event_id = $1 limit 1', [eventId]);
  return rows.length > 0;
}

/** Changes that somebody made to several meetings at once, as far as they still can be taken back. */
export interface MadeTogether {
  /** Epoch milliseconds. */
  at: number;
  changes: ChangeOf[];
  /** Whether all of them were cancelled, or a date of each. */
  isCancelling: boolean;
}

/**
 * What somebody changed of several meetings at once since an instant, the latest first; what went with a change of
 * a place is taken back with that.
 */
export async function readMadeTogether(
  db: Database,
  personId: number,
  since: number,
  most: number,
): Promise<MadeTogether[]> {
  const { rows } = await db.query<Omit<MadeTogether, 'changes'> & { changes: [string, number][] }>(
    `select at, json_agg(json_build_array(event_id, version) order by id) as changes,
            bool_and(edits @@ '$[*].path like_regex "^status$|/cancelledAt$|^except/"') as "isCancelling"
     from revision made
     where by_id = $1 and event_id is not null and at >= $2
       and not exists (select 1 from revision place
                       where place.by_id = $1 and place.thing is not null and place.at = made.at
                         and place.xmin = made.xmin)
     -- What one transaction wrote: others may have the same millisecond.
     group by at, xmin::text having count(*) > 1 order by at desc limit $3`,
    [personId, new Date(since), most],
  );
  return rows.map(({ changes, ...row }) => ({
    ...row,
    changes: changes.map(([id, version]) => ({ id, version })),
  }));
}
