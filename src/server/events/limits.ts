/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */
import { DAY } from '../../core/time/interval.ts';

/** Times: the invitation to one meeting goes out once more within an hour. */
export const MOST_RESENT_AN_HOUR = 10;

/** Months: how far ahead the occurrences of series are laid out. */
export const HORIZON_MONTHS = 24;

/** Milliseconds: of a series that is entered today, what ended earlier takes nobody's time any more. */
export const PAST_MS = 90 * DAY;

/**
 * Rows: claims and reservations that a series has ahead at most, and so about the rows that one action writes:
 * with many people it is laid out less far, and further as time goes on.
 */
export const MOST_ROWS_AHEAD = 40_000;

/** Dates: of one series that are laid out: no rule gives more than one a day. */
export const MOST_OCCURRENCES = HORIZON_MONTHS * 31;

/** Bookings: of places, dates times places, that one action lays out: what it takes to judge and write them. */
export const MOST_BOOKINGS = 12_000;

/** Bookings: of all that is changed together, of which most stay as they are. */
export const MOST_BOOKINGS_TOGETHER = 100_000;

/** Days: that a series lacks before it is laid out further, which is not every night. */
export const SLACK_DAYS = 28;

/** Series: looked at in one run, so that it has an end; the next run goes on. */
export const MOST_SERIES_A_RUN = 5_000;

/** Meetings: single dates of one series elsewhere that are kept by themselves while it is not known here. */
export const MOST_SINGLE_DATES = 400;

/** Meetings: single dates of a series that is not known here, in one letter: each is made by itself. */
export const MOST_SINGLE_DATES_AT_ONCE = 20;
