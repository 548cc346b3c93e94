/** Who takes part in meetings and what they answered: nothing else writes attendees and replies. */
export { findByAddress, insertParticipants, updateParticipants } from './queries.ts';
export { guestKey, guestToken, readToken } from './guestLinks.ts';
export { lookUpInvited } from './invited.ts';
