/** What others need of Plan: adding to a line-up, and the day of everybody beside a form. */
export { DayBeside } from './DayBeside.tsx';
export { RoomsWithin } from './RoomsWithin.tsx';
export { sendLabel } from './sendLabel.ts';
export { checkAgain } from './takenSince.ts';
