/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Fields: that one refusal names. */
export const MOST_NAMED_WRONG = 50;

/** People: of the file of all there are. */
export const MOST_IN_FILE = 20_000;

/** Cities: whose zone is looked for in one file; each is looked for among thousands. */
export const MOST_CITIES = 50;
