/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */
import { HOUR } from '../../core/time/interval.ts';

/**
 * Bookings: bookings looked at in one look, each dealt with in a transaction of its own: more than begin
 * within a grace time in a large organisation, since those that are warned stand before those that are not.
 */
export const MOST_BOOKINGS_A_LOOK = 2_000;

/** Milliseconds: a request is over without an answer after this. */
export const DECIDED_WITHIN_MS = 48 * HOUR;

/** Milliseconds: what somebody is to check in to is shown so long ahead, and what is over no more. */
export const SHOWN_AHEAD_MS = 12 * HOUR;

/** Bookings: of one’s own that are listed. */
export const MOST_MINE = 20;

/** Requests: for places that wait for a steward, as many as are listed. */
export const MOST_REQUESTS = 100;
