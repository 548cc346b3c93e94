/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Characters: of a header that are looked at; what a mail server says is a few lines. */
export const LONGEST_RESULT_HEADER = 4_000;

/** Bytes: a mail that answers a letter needs no more. */
export const MOST_MAIL_BYTES = 2 * 1024 * 1024;

/** Lines: of a whole mail: 2 MB in base64 have 28,000. */
export const MOST_MAIL_LINES = 60_000;

/** Lines: of a mail’s own headers, folded ones among them. */
export const MOST_HEADER_LINES = 1_000;

/** Lines: that may part one piece of a mail from the next. */
export const MOST_BOUNDARIES = 500;

/** Characters: of its text that are kept. */
export const MOST_MAIL_WORDS = 4_000;

/** Addresses: of one mail; the mail server hands it over to more in another go. */
export const MOST_RECIPIENTS = 100;

/** Headers: in which mail servers say whom they believe. */
export const MOST_AUTHENTICATION_RESULTS = 10;

/** Characters: of a report that are looked through for its reason. */
export const MOST_REPORT_CHARACTERS = 16_000;

/** Connections: at the same time from the mail server. */
export const MOST_LMTP_CLIENTS = 20;

/** Milliseconds: a connection on which nothing comes for so long is closed. */
export const LMTP_SILENT_MS = 30_000;

/** Letters: that cancelled a meeting before its invitation came, and are looked at. */
export const MOST_CANCELLED_BEFORE = 5;

/** Letters: of one sender that are counted by one click. */
export const MOST_COUNTED_TOGETHER = 20;
