/** Events: making and changing them by commands, reading them as far as they may be seen. */
export type { Belonging } from './belongingQueries.ts';
export { changeBookings } from './commands/bookings.ts';
export { cancelEvent } from './commands/cancel.ts';
export { createEvent } from './commands/create.ts';
export { changeEvent } from './commands/change.ts';
export type { Done } from './commands/carryOut.ts';
export { noteOf } from './commands/note.ts';
export { sendDraft } from './commands/send.ts';
export { receiveRequest } from './commands/receive.ts';
export { leaveMeetings, type Fate } from './commands/leave.ts';
export { giveUpPlace } from './commands/giveUpPlace.ts';
export { giveOtherPlaces } from './commands/otherPlaces.ts';
export { proposeTo } from './commands/propose.ts';
export { datesThatGoBack, undoTogether } from './commands/undo.ts';
export {
  answerAs,
  askInPlace,
  meetingAnswered,
  receiveAnswer,
  replyTo,
  type AnswerSender,
  type Checked,
} from './commands/reply.ts';
export { horizonJob, moveHorizon } from './occurrences/horizon.ts';
export { horizonAt } from './occurrences/dates.ts';
export { keepOwnDays, spanFor } from './occurrences/ownDaysQueries.ts';
export { syncBusyTime } from './occurrences/queries.ts';
export {
  changeableMeeting,
  levelsOn,
  lockChangeableMeeting,
  lockVisibleMeeting,
  mayChangeIt,
  detailFor,
  readDetail,
  visibleMeeting,
} from './read/visible.ts';
export { eventsApi } from './routes.ts';
export { lockMeeting, lockMeetings, readMeeting, type StoredMeeting } from './store/read.ts';
export { detailAgain } from './read/again.ts';
export { columnOf } from './store/fields.ts';
export { readMadeTogether } from './store/revisions.ts';
