/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Categories: of one person. */
export const MOST_CATEGORIES = 40;
