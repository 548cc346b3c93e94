import type { Platform } from '../platform.ts';
import type { JobDefinition } from './definition.ts';
import {
  deleteJob,
  ensureJobs,
  leaseJobs,
  postpone,
  readDueKinds,
  renewLeases,
  type LeasedJob,
} from './queries.ts';
import { LEASE_MS, LOOK_EVERY_MS, RENEW_LEASE_EVERY_MS } from './limits.ts';

/**
 * Does jobs as they come due: lease, commit, do, mark. Any number of servers may; each job is done by
 * one of them, and by another when that one dies on the way.
 */
export class Jobs {
  private readonly running = new Map<string, Set<Promise<void>>>();
  private readonly leased = new Set<string>();
  private platform: Platform | null = null;
  private renewal: NodeJS.Timeout | undefined;
  private timer: NodeJS.Timeout | undefined;
  private looking = false;
  private again = false;
  private ended = false;

  constructor(private readonly definitions: readonly JobDefinition[]) {}

  /** Begins to look for work. */
  async start(platform: Platform): Promise<void> {
    this.platform = platform;
    const regular = this.definitions.filter((one) => one.everyMinutes !== undefined);
    await ensureJobs(
      platform.pool,
      regular.map((one) => one.kind),
    );
    this.renewal = setInterval(() => {
      if (this.leased.size === 0) return;
      renewLeases(platform.pool, [...this.leased], LEASE_MS).catch((error: unknown) =>
        platform.log.warn({ error }, 'leases could not be renewed'),
      );
    }, RENEW_LEASE_EVERY_MS).unref();
    this.wake();
  }

  /** Looks for work now instead of at the next look. */
  wake(): void {
    if (this.ended || !this.platform) return;
    if (this.looking) {
      this.again = true;
      return;
    }
    this.looking = true;
    clearTimeout(this.timer);
    void this.look(this.platform)
      .catch((error: unknown) => this.platform!.log.warn({ error }, 'jobs could not be read'))
      .finally(() => {
        this.looking = false;
        if (this.ended) return;
        if (this.again) {
          this.again = false;
          this.wake();
        } else {
          this.timer = setTimeout(() => this.wake(), LOOK_EVERY_MS).unref();
        }
      });
  }

  private async look(platform: Platform): Promise<void> {
    const due = await readDueKinds(platform.pool);
    for (const definition of this.definitions) {
      if (!due.has(definition.kind)) continue;
      const running = this.running.get(definition.kind) ?? new Set();
      this.running.set(definition.kind, running);
      const room = definition.atOnce - running.size;
      if (room <= 0 || this.ended) continue;
      for (const job of await leaseJobs(platform.pool, definition.kind, room, LEASE_MS)) {
        this.leased.add(job.lease);
        const work: Promise<void> = this.run(platform, definition, job).finally(() => {
          running.delete(work);
          this.leased.delete(job.lease);
          // There may be more than could be taken at once.
          this.wake();
        });
        running.add(work);
      }
    }
  }

  private async run(platform: Platform, definition: JobDefinition, job: LeasedJob): Promise<void> {
    const { pool, log } = platform;
    try {
      const failure = await failureOf(platform, definition, job);
      if (failure === null) {
        const { everyMinutes } = definition;
        const isMarked =
          everyMinutes === undefined
            ? await deleteJob(pool, job)
            : await postpone(pool, job, everyMinutes, { tries: 0, failure: null });
        // Whoever took it over marks it.
        if (!isMarked) log.warn({ kind: job.kind, key: job.key }, 'a job was taken over meanwhile');
        return;
      }
      log.warn({ kind: job.kind, key: job.key, tries: job.tries + 1, failure }, 'a job failed');
      const pause = definition.pausesMinutes[job.tries] ?? definition.everyMinutes;
      if (pause !== undefined) {
        await postpone(pool, job, pause, { tries: job.tries + 1, failure });
        return;
      }
      await definition.giveUp?.(platform, job.key, failure);
      await deleteJob(pool, job);
    } catch (error) {
      // Not marked: its lease runs out, and then it is done again.
      log.warn({ error, kind: job.kind, key: job.key }, 'a job could not be marked');
    }
  }

  /** Takes no more work, and waits for what is under way, at most so long. */
  async end(mostMs = 5_000): Promise<void> {
    this.ended = true;
    clearTimeout(this.timer);
    clearInterval(this.renewal);
    const running = [...this.running.values()].flatMap((set) => [...set]);
    let timer: NodeJS.Timeout | undefined;
    await Promise.race([
      Promise.allSettled(running),
      new Promise((resolve) => (timer = setTimeout(resolve, mostMs))),
    ]);
    clearTimeout(timer);
  }
}

/** Does a job within its time. @returns what went wrong, or null */
async function failureOf(
  platform: Platform,
  { timeLimitMs, work }: JobDefinition,
  { key }: LeasedJob,
): Promise<string | null> {
  const controller = new AbortController();
  let timer: NodeJS.Timeout | undefined;
  const limit = new Promise<never>((_, reject) => {
    timer = setTimeout(() => {
      controller.abort();
      reject(new Error(`It was not done within ${timeLimitMs / 1000} seconds.`));
    }, timeLimitMs);
  });
  try {
    await Promise.race([work(platform, key, controller.signal), limit]);
    return null;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  } finally {
    clearTimeout(timer);
  }
}
