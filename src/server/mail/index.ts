/** The outbox: written in an action's transaction, delivered by jobs. */
export { letterJob, LETTER_PAUSES_MINUTES } from './deliver.ts';
export {
  countSentOutside,
  countWaiting,
  insertMails as postMails,
  letLettersLeave,
  lettersArriveSince,
  readFailedLetters,
  readLetterStates,
  readLettersWaiting,
  retryLetters,
  takeHeldLetters,
  wasWritten,
  SECRET,
  withdrawLetters,
  withdrawPurpose,
  type OutgoingMail,
  type TakenLetter,
  type Withdrawal,
} from './queries.ts';
export { MailRefused, smtpTransport, type Envelope, type MailTransport } from './transport.ts';
