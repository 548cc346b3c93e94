/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** People: who act for one person. */
export const MOST_DELEGATES = 20;
