/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Days: back in which those one met are looked for. */
export const MET_DAYS = 60;

/** People: one met most lately, as many as are offered. */
export const MOST_MET = 8;

/** Line-ups: that one person keeps. */
export const MOST_LINE_UPS = 50;
