/** Answers, in words and marks, and the form to give one. */
export { AnswerForm } from './AnswerForm.tsx';
export { REPLY_WORDS, ReplyMark, Undelivered } from './replyWords.tsx';
