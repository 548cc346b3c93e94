/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Minutes: how often what people publish is read anew. */
export const REFRESH_MINUTES = 15;

/** Minutes: somebody who asks for it gets it read again at most this often, whoever asked before. */
export const ASKED_AGAIN_MINUTES = 2;

/** Addresses: of published calendars read in one run. */
export const MOST_ADDRESSES = 2_000;

/** Addresses: read at the same time. */
export const ADDRESSES_AT_ONCE = 4;

/** Milliseconds: so long is waited for a published calendar. */
export const PUBLISHED_PATIENCE_MS = 10_000;

/** Bytes: of one that are read. */
export const MOST_PUBLISHED_BYTES = 2 * 1024 * 1024;

/** Redirects: that are followed to one. */
export const MOST_REDIRECTS = 3;
