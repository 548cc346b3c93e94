/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Comments: on one meeting. */
export const MOST_COMMENTS = 1_000;
