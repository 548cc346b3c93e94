/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Milliseconds: between two tries to listen to the database again. */
export const LISTEN_AGAIN_MS = 1000;

/** Windows: windows of one person that listen to one server: nobody takes the connections of all. */
export const MOST_STREAMS = 60;

/**
 * Milliseconds: what changed so short a time before a window listens is told to it then: it may have read it
 * before. So many notices are remembered at most.
 */
export const REMEMBERED_MS = 3_000;

/** Notices: remembered at most. */
export const MOST_REMEMBERED = 500;

/** Milliseconds: between two signs of life on a stream on which nothing happens. */
export const HEARTBEAT_MS = 25_000;

/** Milliseconds: a stream lasts; then the browser comes again, and is asked again who it is. */
export const LONGEST_STREAM_MS = 30 * 60_000;

/** Seconds: when a window that was one too many may come again. */
export const AGAIN_SECONDS = 30;

/** Bytes: a browser that does not read is not waited for: what it missed it reads anew when it comes back. */
export const MOST_WAITING_BYTES = 256 * 1024;

/** Bytes: of one notice: a notification of the database may hold 8,000. */
export const MOST_NOTICE_BYTES = 7_000;
