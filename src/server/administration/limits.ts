/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Fields: that one refusal names. */
export const MOST_NAMED_WRONG = 50;
