/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Milliseconds: a mail server has for one mail. */
export const DELIVERY_MS = 60_000;

/** Mails: mails under way at the same time, on each server. */
export const MOST_MAILS_AT_ONCE = 5;

/** Milliseconds: a letter waits so long for an earlier one of the same meeting to leave, then for its next try. */
export const MOST_WAITED_MS = 3_000;

/** Milliseconds: between two looks at whether that has left. */
export const LOOK_AGAIN_MS = 150;

/** Holds: letters are held so many times as long as usual at most, while more and more changes. */
export const MOST_HOLDS = 6;
