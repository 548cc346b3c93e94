/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/**
 * Requests: as many as are looked at in one look, those who asked first, first: more than wait at once in a
 * large organisation, since whoever waits long would keep the others from being looked at.
 */
export const MOST_WAITING_A_LOOK = 5_000;
