import type { Logger } from 'pino';
import type { Pool } from 'pg';
import type { Jobs } from './jobs/jobs.ts';
import type { LiveHub } from './live/hub.ts';
import type { PublishedCalendars } from './published/source.ts';

export interface Clock {
  /** Epoch milliseconds. */
  now(): number;
  /** True when MARMOT_NOW holds it still. */
  fixed: boolean;
}

/** What every capability stands on; made once, in main.ts or by a test. */
export interface Platform {
  pool: Pool;
  clock: Clock;
  jobs: Jobs;
  live: LiveHub;
  log: Logger;
  /** Where the busy times of other organizations are read. */
  calendars: PublishedCalendars;
  /** Address under which people reach this server, without a slash at the end. */
  publicUrl: string;
}
