/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Minutes: that a device has to sign what it was asked to. */
export const CHALLENGE_MS = 5 * 60_000;

/** Challenges: that wait for an answer, of all browsers; more are somebody who only asks. */
export const MOST_CHALLENGES = 20_000;
