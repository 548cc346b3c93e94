import type { LettersWaiting } from '../../contract/health.ts';
import type { Database } from '../db/transaction.ts';

export interface LeasedJob {
  id: number;
  kind: string;
  key: string;
  /** Failed tries so far. */
  tries: number;
  /** By which whoever took it is known; whoever takes it later has another. */
  lease: string;
}

/** The kinds of which something is due that nobody does. */
export async function readDueKinds(db: Database): Promise<Set<string>> {
  const { rows } = await db.query<{ kind: string }>(
    `select distinct kind from job
     where due_at <= now() and (leased_until is null or leased_until < now())`,
    // With values, though there are none, its plan is kept.
    [],
  );
  return new Set(rows.map((one) => one.kind));
}

/**
 * Takes jobs that are due, for so long; nobody else does meanwhile. One that somebody took and did
 * not finish in time is due again.
 */
export async function leaseJobs(
  db: Database,
  kind: string,
  most: number,
  leaseMs: number,
): Promise<LeasedJob[]> {
  const { rows } = await db.query<LeasedJob>(
    `update job set leased_until = now() + make_interval(secs => $3), lease = gen_random_uuid()
     where id in (
       select id from job
       where kind = $1 and due_at <= now() and (leased_until is null or leased_until < now())
       order by due_at limit $2 for update skip locked)
     returning id, kind, key, tries, lease`,
    [kind, most, leaseMs / 1000],
  );
  return rows;
}

/** Makes leases longer, as long as whoever has them lives; those that others took over stay theirs. */
export async function renewLeases(
  db: Database,
  leases: readonly string[],
  leaseMs: number,
): Promise<void> {
  await db.query(
    `update job set leased_until = now() + make_interval(secs => $2)
     where lease = any($1::uuid[]) and leased_until is not null`,
    [leases, leaseMs / 1000],
  );
}

/** @returns whether it was still theirs who took it */
export async function deleteJob(
  db: Database,
  { id, lease }: Pick<LeasedJob, 'id' | 'lease'>,
): Promise<boolean> {
  const { rowCount } = await db.query('delete from job where id = $1 and lease = $2', [id, lease]);
  return rowCount === 1;
}

/** Makes a job due again, in so many minutes. @returns whether it was still theirs who took it */
export async function postpone(
  db: Database,
  { id, lease }: Pick<LeasedJob, 'id' | 'lease'>,
  minutes: number,
  { tries, failure }: { tries: number; failure: string | null },
): Promise<boolean> {
  const { rowCount } = await db.query(
    `update job set due_at = now() + make_interval(secs => $3), leased_until = null, lease = null,
                    tries = $4, failure = $5
     where id = $1 and lease = $2`,
    [id, lease, minutes * 60, tries, failure?.slice(0, 500) ?? null],
  );
  return rowCount === 1;
}

/** Makes sure that what is done again and again is there once. */
export async function ensureJobs(db: Database, kinds: readonly string[]): Promise<void> {
  await db.query(
    `insert into job (kind, key) select unnest($1::text[]), '' on conflict (kind, key) do nothing`,
    [kinds],
  );
}

/** Jobs that are due and letters that wait, for those who watch. */
export async function readBacklog(
  db: Database,
  now: number,
): Promise<{ jobs: LettersWaiting; letters: LettersWaiting }> {
  const { rows } = await db.query<{ jobs: LettersWaiting; letters: LettersWaiting }>(
    `select json_build_object(
              'count', count(*) filter (where due_at <= now()),
              'oldestSeconds', coalesce(round(extract(epoch from
                now() - min(due_at) filter (where due_at <= now()))), 0)) as jobs,
            (select json_build_object(
               'count', count(*),
               'oldestSeconds', coalesce(round(extract(epoch from $1 - min(created_at))), 0))
             from mail where sent_at is null and failed_at is null) as letters
     from job`,
    [new Date(now)],
  );
  return rows[0]!;
}
