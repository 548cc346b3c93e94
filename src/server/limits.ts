/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Seconds: so long letters are held back where nothing else is set. */
export const USUAL_HOLD_SECONDS = 10;

/** Milliseconds: a database that says nothing for so long is away. */
export const LONGEST_HEALTH_MS = 2_000;

/** Lines: of a stack, of which a log keeps the first. */
export const MOST_FRAMES = 20;

/** Milliseconds: a server that was asked to end and has not is ended. */
export const MOST_TO_END_MS = 15_000;

/** Milliseconds: requests that are under way may take when the server ends. */
export const MOST_TO_ANSWER_MS = 10_000;
