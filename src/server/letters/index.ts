/** Letters about what happened to meetings: to whom, with which iTIP message, in which words. */
export { calendarPart, placeText } from './itip.ts';
export { askForInvitation } from './abroad.ts';
export { plainMail } from './plain.ts';
export type { Letter } from './words.ts';
export { letterConsumer } from './write.ts';
