/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Milliseconds: a session lasts. */
export const SESSION_MS = 30 * 24 * 3_600_000;

/** Tries: that were wrong, at one mail address, and from one device that was known before. */
export const TRIES_AT_ADDRESS = 10;

/** Seconds: in which they are counted. */
export const TRIES_SECONDS = 15 * 60;

/** Tries: that were wrong from one network address, whomever they are for. */
export const NETWORK_TRIES = 50;

/** Seconds: in which they are counted. */
export const NETWORK_SECONDS = 60;

/** Milliseconds: a device is known by its cookie. */
export const DEVICE_MS = 365 * 24 * 3_600_000;

/** Milliseconds: that somebody was seen is noted at most this often. */
export const SEEN_EVERY_MS = 5 * 60_000;

/** Characters: of what a browser says it is that are kept. */
export const LONGEST_BROWSER = 400;

/** Browsers: in which somebody is signed in that are listed, the last used. */
export const MOST_SESSIONS = 200;

/** People: of the teams that somebody coordinates, for whom they plan and answer, the first by name. */
export const MOST_COORDINATED = 500;
