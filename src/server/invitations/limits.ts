/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */
import { HOUR } from '../../core/time/interval.ts';

/** Days: of work that are shown at once around an invitation. */
export const DAYS_SHOWN = 5;

/** Times: laid side by side, the soonest of them. */
export const MOST_OTHER_TIMES = 12;

/** Days: ahead in which Plan looks for its best. */
export const LOOK_AHEAD_DAYS = 14;

/** Milliseconds: around a time that are read, so that quiet time and what is close by are known. */
export const READ_AROUND_MS = 12 * HOUR;

/** Minutes: hours left by so much are said to be, where others would be said not to come. */
export const MOST_STRETCH_MINUTES = 720;

/** Meetings: in the way of an invitation, as many as are named. */
export const MOST_CONFLICTS = 5;

/** Dates: of a series that are held against somebody’s time. */
export const MOST_DATES_COMPARED = 60;

/** Dates: of them that collide, as many as are named. */
export const MOST_COLLISIONS = 3;

/** Invitations: that are listed. */
export const MOST_INVITATIONS = 300;

/** Drafts: that are listed. */
export const MOST_DRAFTS = 50;

/** Facts: of a meeting’s history that are told. */
export const MOST_HISTORY = 300;

/** Days: back from now in which meetings count towards who never answers. */
export const ANSWERS_COUNT_DAYS = 180;

/** People: who have not answered, as many as are listed. */
export const MOST_UNANSWERED = 200;

/** Meetings: that wait for somebody’s answer, as many as are named. */
export const MOST_MEETINGS_NAMED = 5;
