/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Rows: forgotten with one statement. */
export const ROWS_FORGOTTEN_AT_ONCE = 5_000;

/** Statements: of one run, which the next goes on with. */
export const MOST_STATEMENTS_A_RUN = 200;

/** Days: the longest that an operator may keep something: a century. */
export const LONGEST_KEPT_DAYS = 36_500;
