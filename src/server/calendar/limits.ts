/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Dates: that a search of the calendar finds. */
export const MOST_FOUND = 100;

/** Days: in which what was cancelled is listed, and can be had back. */
export const CANCELLED_KEPT_DAYS = 30;
