/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */
import { MINUTE } from '../../core/time/interval.ts';

/** Milliseconds: given to an organizer to send the whole invitation before they are asked once more. */
export const ASKED_AGAIN_AFTER_MS = 10 * MINUTE;

/** Dates: of which a letter about bookings has single lines; of more, how many. */
export const MOST_DATES_OF_BOOKINGS = 20;

/** Dates: of which a letter about places that are taken has single lines; of more, how many. */
export const MOST_DATES_TAKEN = 50;

/** Letters: that one organizer may send to addresses outside within 24 hours. */
export const MOST_OUTSIDE_A_DAY = 1_000;
