/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Meetings: of the past that the times of a line-up are compared with. */
export const MOST_PAST_MEETINGS = 6;

/** Days: back in which such meetings are looked for: half a year. */
export const LOOK_BACK_DAYS = 182;

/** Parts of one: a past meeting counts where at least this part of the people took part. */
export const MUCH_THE_SAME = 2 / 3;

/** Meetings: of one’s own that are offered to make room. */
export const MOST_MOVABLE_MEETINGS = 40;

/** Times: times of all who are asked for: some ten megabytes, and as much again while they are written out. */
export const MOST_BUSY_TIMES = 150_000;

/** Minutes: before and after the days that are looked through, in which busy times are read: no shorter than a break. */
export const AROUND_MINUTES = 15;

/** Days: around a meeting that could move, in which what else its places have is looked at. */
export const AROUND_MOVED_DAYS = 3;
