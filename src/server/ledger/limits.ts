/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Days: from how many days on sums are added up of those that are kept: of fewer, it is as fast to count. */
export const TALLIED_FROM_DAYS = 21;

/** Meetings: of a title that are listed; of more it is asked booking by booking. */
export const MOST_MEETINGS_OF_TITLE = 2_000;

/** Bookings: read through for their words, which no index has in order. */
export const MOST_READ_THROUGH = 200_000;

/** Bookings: counted one by one, or put in an order that no index has. */
export const MOST_COUNTED = 500_000;

/** Rows: of an export that are read at once. */
export const EXPORT_PAGE = 1_000;

/** Changes: added to the sums in one transaction. */
export const CHANGES_ADDED_AT_ONCE = 10_000;

/** Milliseconds: changes of many at once are listed for so long; all of them can be taken back from their meetings. */
export const LISTED_FOR = 30 * 24 * 3_600_000;
