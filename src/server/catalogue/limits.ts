/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Bookings: so many bookings to come are looked at for one file. */
export const MOST_COMING = 20_000;

/** Characters: of a cell, that are said again with what is wrong with it. */
export const LONGEST_QUOTED = 60;

/** Places: written into a file; a house of ten thousand is more than any is for. */
export const MOST_IN_FILE = 20_000;
