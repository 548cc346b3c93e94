/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Places: that are named to somebody who does not look after them. */
export const MOST_NAMED = 3;
