/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Bytes: of a request of the directory; a group of two thousand members takes a quarter of it. */
export const LONGEST_REQUEST = 1024 * 1024;

/** Resources: that a page of a list has at most (RFC 7644 section 3.4.2.4). */
export const MOST_OF_PAGE = 500;

/** Resources: that a list of the directory looks through. */
export const MOST_LISTED = 20_000;

/** Characters: of a filter, which bounds how deep it can be. */
export const LONGEST_FILTER = 1_000;

/** Operations: of one PATCH. */
export const MOST_OPERATIONS = 500;

/** Requests: of the directory that are worked on at once, which leaves room for people. */
export const AT_ONCE = 2;

/** Requests: of the directory that wait for those; more are told to come again. */
export const MOST_WAITING = 200;

/** Seconds: that one of them waits. */
export const LONGEST_WAIT_MS = 20_000;

/** Seconds: that its use is noted at most this often. */
export const USED_EVERY_MS = 60_000;

/** Characters: of what the directory calls somebody. */
export const LONGEST_EXTERNAL_ID = 255;
