/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Letters: of one transaction. */
export const LETTERS_A_TRANSACTION = 200;

/** Meetings: that one letter a day tells of. */
export const MOST_MEETINGS_A_LETTER = 40;

/** Lines: about each of them. */
export const MOST_LINES_A_MEETING = 10;

/** Characters: of what somebody wrote that are told behind the bell. */
export const MOST_WORDS_TOLD = 280;

/** Notices: that are shown behind the bell. */
export const MOST_NEWS = 60;

/** People: whose windows are told with one notice, which may hold 8,000 bytes. */
export const MOST_PEOPLE_A_NOTICE = 200;
