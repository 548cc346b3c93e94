/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Files: with one meeting. */
export const MOST_FILES = 20;

/** Bytes: of one file with a meeting. */
export const MOST_FILE_BYTES = 10 * 1024 * 1024;

/** Milliseconds: a file that comes more slowly than this is not waited for. */
export const LONGEST_UPLOAD_MS = 120_000;
