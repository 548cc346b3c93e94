/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Places: of a site that closes as a whole, in one transaction. */
export const MOST_PLACES_CLOSED = 500;
