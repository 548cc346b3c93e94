/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/**
 * Milliseconds: what is read in longer than this was made to be slow: the largest honest files take a tenth of
 * it.
 */
export const LONGEST_READ_MS = 3_000;

/**
 * Milliseconds: a worker that does not begin is given up: its module cannot be loaded, or the machine is at
 * its end.
 */
export const LONGEST_START_MS = 60_000;

/** Megabytes: a worker may hold: some thirty times the largest thing that is read. */
export const MOST_MEMORY_MB = 192;

/** Milliseconds: a worker that nobody needs ends after so long. */
export const IDLE_WORKER_MS = 60_000;
