/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Stewards: told of what needs one of them. */
export const MOST_STEWARDS = 40;
