/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Milliseconds: a body that comes more slowly is not waited for: it holds one of its asker's places meanwhile. */
export const LONGEST_BODY_MS = 30_000;

/** Characters: a longer answer is made again when it is asked for again, or packed. */
export const MOST_KEPT_CHARACTERS = 8 * 1024;

/** Bytes: a packed answer; what is longer still has to be read anew. */
export const MOST_PACKED_BYTES = 128 * 1024;

/** Hours: how long the answer to a request is kept: longer than any browser repeats it. */
export const ANSWER_KEPT_HOURS = 24;

/** Bytes: a window that shows two thousand calendars names them in one address. */
export const MOST_HEADER_BYTES = 64 * 1024;

/** Seconds: after so long it is worth another try when the database was away. */
export const RETRY_SECONDS = 2;

/** Requests: that anybody may send, from one network address within a minute. */
export const MOST_A_MINUTE = 60;

/** Fields: that a refusal names: an answer is no longer than a page. */
export const MOST_FIELDS = 40;

/** Fields: that nobody knows, as many as a refusal names. */
export const MOST_UNKNOWN_FIELDS = 8;

/** Characters: of a field’s name that a refusal repeats. */
export const LONGEST_FIELD_NAME = 80;
