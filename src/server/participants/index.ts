/** Who takes part in meetings and what they answered: nothing else writes attendees and replies. */
export { answerAddress, readAnswerAddress } from './answerAddress.ts';
export {
  findByAddress,
  meetingOfAttendee,
  newParticipants,
  updateParticipants,
  withNumbers,
} from './queries.ts';
export { guestKey, guestToken, readToken } from './guestLinks.ts';
export { lookUpInvited } from './invited.ts';
