/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Milliseconds: the link for the first administrator is valid. */
export const LINK_VALID_MS = 24 * 3_600_000;
