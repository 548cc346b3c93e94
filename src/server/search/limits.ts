/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Entries: of one kind that a search names. */
export const MOST_OF_A_KIND = 6;
