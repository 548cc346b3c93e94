/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Milliseconds: a link of welcome is good, once. */
export const WELCOME_MS = 7 * 24 * 3_600_000;

/** Milliseconds: a link for another password is good, once. */
export const PASSWORD_LINK_MS = 3_600_000;

/** Letters: for another password to one person within an hour; who asks again gets no further one. */
export const MOST_PASSWORD_LETTERS = 3;

/** Milliseconds: in which they are counted. */
export const PASSWORD_LETTERS_MS = 3_600_000;

/** Passwords: of those that are guessed first that nobody may choose. */
export const MOST_COMMON = 1000;

/** Letters: of welcome that are written in one statement. */
export const LETTERS_AT_ONCE = 200;
