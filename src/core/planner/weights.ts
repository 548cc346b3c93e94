/**
 * Penalty points; an opening's score is the sum over those whose conflicts count. A point is about
 * a minute of one person's evening. docs/PLANNING.md says why each is what it is.
 */
export const WEIGHTS = {
  /** For each needed member who cannot come, where times with conflicts are asked for. */
  conflict: 240,
  /** For each optional person who cannot come. */
  missing: 60,
  /** For each person of whom nothing is known then, where that does not exclude. */
  unknown: 45,
  /** For each minute that one person spends outside their working hours. */
  outsideMinute: 1,
  /** Part of the above again for each time in a row that the same person had such an hour. */
  again: 0.5,
  /** For each minute that one person gives up of 12:00 to 13:00 on their own clock. */
  middayMinute: 0.25,
  /** For each person and side with less than ten minutes to another commitment. */
  backToBack: 5,
  /** For each minute of somebody's two hours or more without a meeting that is broken up. */
  brokenMinute: 0.04,
  /** For each day that goes by before the meeting. */
  dayLater: 4,
  /** For each minute that is missing to four hours' notice, where others than one are asked. */
  noticeMinute: 0.05,
  /** For a start that is not on the half hour of the reader's clock. */
  oddStart: 2,
};

/** Of rooms that are picked with the time. */
export const ROOM_WEIGHTS = {
  /** For each seat that stays empty. */
  emptySeat: 0.3,
  /** For each floor that the people of the site walk, on average. */
  floor: 2,
};

/** From this on, somebody has been asked in time. Minutes. */
export const NOTICE_MINUTES = 240;

/** Less than this between two commitments is back to back. Minutes. */
export const BREAK_MINUTES = 10;

/** Time without commitments counts as undisturbed from this on. Minutes. */
export const QUIET_MINUTES = 120;
