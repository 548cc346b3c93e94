/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Requests: so few that what takes their places is read behind the hold, without waiting for what is held. */
export const FEW_REQUESTS = 20;

/** Dates: of more, nobody reads what each breaks. */
export const MOST_BREAKS_NAMED = 3;

/** Dates: that break a rule, as many as are told to a program. */
export const MOST_BREAKS_TOLD = 60;
