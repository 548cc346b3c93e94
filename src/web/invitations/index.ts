/** Answers, in words and marks, the buttons and the form to give one. */
export { AnswerButtons } from './AnswerButtons.tsx';
export { AnswerHere } from './AnswerHere.tsx';
export { AnotherTime } from './AnotherTime.tsx';
export { AnswerForm } from './AnswerForm.tsx';
export { useFirstReplies, useNews, useRepliesTo } from './useInvitations.ts';
export { datesFitWords } from './coverage.ts';
export { REPLY_WORDS, ReplyMark, Undelivered } from './replyWords.tsx';
