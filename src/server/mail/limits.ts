/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Milliseconds: a mail server has for one mail. */
export const DELIVERY_MS = 60_000;

/** Mails: mails under way at the same time, on each server. */
export const MOST_MAILS_AT_ONCE = 5;
