/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */
import { DAY, HOUR } from '../../core/time/interval.ts';

/** Milliseconds: reminders are found this long before they are due, and shown at their very minute. */
export const FOUND_AHEAD_MS = 30_000;

/** Milliseconds: after a time without a server, what came due longer ago than this is not brought up any more. */
export const FURTHEST_BACK_MS = DAY;

/** Milliseconds: of reminders looked through in one transaction. */
export const LOOKED_THROUGH_MS = HOUR;

/** Letters: written with one statement. */
export const LETTERS_AT_ONCE = 500;
