/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Fields: that one refusal names. */
export const MOST_NAMED_WRONG = 50;

/** People: of the file of all there are. */
export const MOST_IN_FILE = 20_000;

/** Entries: of the log that are written out as a file at once. */
export const MOST_LOGGED_IN_FILE = 10_000;

/** Dates: of each event of somebody who leaves that are compared with the calendar of whoever could have it. */
export const MOST_DATES_TRIED = 8;

/** Events: that a letter about somebody who left names of each kind; it counts the others. */
export const MOST_NAMED_IN_LETTER = 30;
