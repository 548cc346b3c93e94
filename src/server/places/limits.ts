/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */
import { DAY } from '../../core/time/interval.ts';

/** Ways: offered where a place is taken. */
export const MOST_ALTERNATIVES = 3;

/** Milliseconds: around a time that is taken in which another is looked for. */
export const LOOK_AROUND_MS = 7 * DAY;

/** Bytes: of a place’s picture. */
export const MOST_PICTURE_BYTES = 1024 * 1024;

/** Seconds: a picture is asked for by its version, and so stays what it is. */
export const PICTURE_KEPT_SECONDS = 30 * 86_400;

/** Places: of one kind that are looked through. */
export const MOST_PLACES_LOOKED_THROUGH = 5_000;

/** Places: from which on all claims of a window are looked at once, instead of each place’s by itself. */
export const MANY_PLACES = 200;

/** Milliseconds: ahead in which a place’s next booking is looked for. */
export const NEXT_BOOKING_WITHIN_MS = 7 * DAY;

/** Dates: taken of a series; for more nobody decides one by one. */
export const MOST_DATES_DECIDED = 60;

/** Dates: of them that a sentence names. */
export const MOST_DATES_NAMED = 6;
