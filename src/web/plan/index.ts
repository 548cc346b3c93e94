/** What others need of Plan: adding to a line-up, and the day of everybody beside a form. */
export { AddMember } from './AddMember.tsx';
export { DayBeside } from './DayBeside.tsx';
export { fitWords } from './fitWords.ts';
export { RoomsWithin } from './RoomsWithin.tsx';
export { sendLabel } from './sendLabel.ts';
export { checkAgain } from './takenSince.ts';
export { useGathering, type Gathering } from './useGathering.ts';
