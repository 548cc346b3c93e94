/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Parts of one: how much of a word's triples of letters must be there for it to be meant, of 1 (pg_trgm). */
export const ALIKE_FROM = 0.4;

/** Letters: below so many letters nothing is forgiven. */
export const FORGIVEN_FROM = 3;

/** Milliseconds: so long is waited for a connection to the database. */
export const CONNECT_MS = 5_000;

/** Milliseconds: a statement that takes longer is ended. */
export const STATEMENT_MS = 20_000;

/** Milliseconds: so long a statement waits for what others hold. */
export const LOCK_MS = 10_000;

/** Milliseconds: a transaction that does nothing for so long is ended. */
export const IDLE_IN_TRANSACTION_MS = 30_000;

/** Milliseconds: a little longer than the database gives a statement: for one that does not even say so. */
export const SILENCE_MS = STATEMENT_MS + 5_000;

/** Statements: whose plans a connection keeps; there are a few hundred in all. */
export const MOST_PREPARED = 1_000;

/** Milliseconds: between two looks for a database that is away. */
export const LONGEST_PAUSE_MS = 5_000;
