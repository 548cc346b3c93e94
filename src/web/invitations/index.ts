/** Answers, in words and marks, the buttons and the form to give one. */
export { AnswerButtons } from './AnswerButtons.tsx';
export { AnswersInBlock } from './AnswersInBlock.tsx';
export { AnswerHere } from './AnswerHere.tsx';
export { AnotherTimeLater } from './anotherTimeLater.ts';
export { MailAside, useMailAside } from './AnswersAside.tsx';
export { CameByMail } from './CameByMail.tsx';
export { AnswerForm } from './AnswerForm.tsx';
export { invitationAddress, useFirstReplies, useNews, useRepliesTo } from './useInvitations.ts';
export { FitWords } from './FitWords.tsx';
export { REPLY_WORDS, ReplyMark, Undelivered } from './replyWords.tsx';
