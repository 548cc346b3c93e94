import type { Platform } from '../platform.ts';

/** A kind of work: what is done, how long it may take, and what happens when it fails. */
export interface JobDefinition {
  kind: string;
  /** How many of the kind are done at the same time, on each server. */
  atOnce: number;
  /** After this it counts as failed. */
  timeLimitMs: number;
  /** Minutes from each failed try to the next; after the last one it is given up. */
  pausesMinutes: readonly number[];
  /** For what is done again and again, without a key: from one time to the next. */
  everyMinutes?: number;
  /**
   * Does it. No transaction is open and no row is held; what must not happen twice carries its own
   * key to the outside.
   * @param key what it is about; empty for what is done again and again
   * @param signal aborted when the time is up
   */
  work(platform: Platform, key: string, signal: AbortSignal): Promise<unknown>;
  /** What is left to do when it has failed for the last time. */
  giveUp?(platform: Platform, key: string, failure: string): Promise<void>;
}
