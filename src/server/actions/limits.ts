/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Milliseconds: so long one piece of work holds the thread that answers everybody. */
export const LONGEST_HELD_MS = 15;
