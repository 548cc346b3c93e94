/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Rows: that are read at once while an archive is written. */
export const ROWS_AT_ONCE = 500;
