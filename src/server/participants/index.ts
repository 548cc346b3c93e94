/** Who takes part in meetings and what they answered: nothing else writes attendees and replies. */
export { answerAddress, readAnswerAddress } from './answerAddress.ts';
export {
  findByAddresses,
  meetingOfAttendee,
  newParticipants,
  updateParticipants,
  withNumbers,
} from './queries.ts';
export { guestToken, readToken } from './guestLinks.ts';
export { guestKey } from './queries.ts';
export { lookUpInvited } from './invited.ts';
