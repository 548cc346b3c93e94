/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Days: a meeting lasts at most. */
export const LONGEST_MEETING_DAYS = 62;

/** People and places: whose time is asked for at once. */
export const MOST_SUBJECTS = 2000;

/** Milliseconds: of times that are asked for at once. */
export const LONGEST_WINDOW_MS = 200 * 24 * 3_600_000;

/** Calendars: laid over one’s own. */
export const MOST_LAYERS = 100;

/** Rows: of a file of places. */
export const MOST_ROWS_OF_PLACES = 500;

/** Features: of one place. */
export const MOST_FEATURES = 30;

/** Teams: that may book one place. */
export const MOST_TEAMS_OF_PLACE = 50;

/** Bookings: that stand against a change of their place, as many as are shown. */
export const MOST_AGAINST = 50;

/** Entries: of a log that are read at once. */
export const MOST_LOGGED = 50;

/** Days: a place is out of use at most. */
export const LONGEST_CLOSURE_DAYS = 366;
/** Places: out of use or retired, listed at once; whoever has more looks for the one. */
export const MOST_OUT_OF_USE = 500;

/** Characters: of a comment. */
export const MOST_OF_COMMENT = 4000;

/** Dates: of a series that are another way, or left out. */
export const MOST_EXCEPTIONS = 500;

/** Events: made with one request. */
export const MOST_MADE_TOGETHER = 5;

/** Events: whose changes are taken back together. */
export const MOST_UNDONE = 200;

/** Characters: of a saved view’s address. */
export const LONGEST_VIEW = 600;

/** Rows: exported at once. */
export const MOST_EXPORTED = 100_000;

/** Bookings: changed at once. */
export const MOST_CHANGED = 100;

/** Views: that one person keeps. */
export const MOST_VIEWS = 30;

/** Bookings: up to which a ledger counts one by one. */
export const COUNTED_UP_TO = 10_000;

/** Groups: told apart. */
export const MOST_GROUPS = 500;

/** Subjects: that one window listens to. */
export const MOST_LISTENED_TO = 2100;

/** Entries: of a list that are read at once. */
export const MOST_A_PART = 200;

/** People: near to whom places are looked for. */
export const MOST_NEAR = 20;

/** Minutes: a time that Find looks for. */
export const LONGEST_FOUND_MINUTES = 1440;

/** Places: that Find names. */
export const MOST_PLACES_FOUND = 60;

/** Places: that a board shows; of more, those of the first sites by name. */
export const MOST_ON_BOARD = 500;

/** Days: ahead at most on which a place is given free. */
export const MOST_FREE_DAYS = 366;

/** Places: that somebody has among their favourites. */
export const MOST_FAVOURITES = 50;

/** Characters: that a password has at least. */
export const LEAST_PASSWORD = 10;

/** Times: that somebody may wait for. */
export const MOST_WAITED_FOR = 20;

/** Addresses: of a pasted list whose owners are asked for at once. */
export const MOST_ADDRESSES = 500;

/** People: that are added, changed or ended at once. */
export const MOST_PEOPLE_CHANGED = 2000;

/** Things named: that one steward looks after, such as a site, a floor, a kind or a place. */
export const MOST_CHARGES = 100;

/** Floors: of a site. */
export const MOST_FLOORS = 100;

/** Teams: of one person. */
export const MOST_TEAMS_OF_PERSON = 20;

/** Days: off of one site, past and to come. */
export const MOST_HOLIDAYS = 500;

/** People: of one team. */
export const MOST_OF_TEAM = 2000;

/** People: of a file that are shown before it is taken, of each kind. */
export const MOST_SHOWN_OF_FILE = 200;

/** Events: of somebody that are handed over, ended or left at once. */
export const MOST_HELD = 2000;

/** Passkeys: of one person; a device or two for each place they work at. */
export const MOST_PASSKEYS = 20;

/** Letters: that failed and are listed, the latest first. */
export const MOST_FAILED_LETTERS = 200;

/** Days: for which what is set to be kept for a time may be kept; twenty years. */
export const MOST_KEPT_DAYS = 7_305;
