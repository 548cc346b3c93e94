/** What those who are invited may do, beside answering. */
export interface InviteeRights {
  /** Change it, as its organizer does. */
  change: boolean;
  /** Ask others as well. */
  invite: boolean;
  /** See who else is asked, and what they answered. */
  list: boolean;
  /** Whether people outside see how many of the others are free, where they ask for another time. */
  count: boolean;
}

export const USUAL_RIGHTS: InviteeRights = {
  change: false,
  invite: false,
  list: true,
  count: false,
};

/** So many other times somebody may ask for at once, of one meeting or one date of a series. */
export const MOST_PROPOSALS = 5;
