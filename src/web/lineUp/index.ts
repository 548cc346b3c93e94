/** Whom and what something needs: its address, how it is gathered, what is known of whom, and the fields for it. */
export {
  asKept,
  FEWEST_DAYS,
  joined,
  MOST_DATES,
  MOST_DAYS,
  MOST_SEATS,
  outsider,
  planPath,
  readPlan,
  recalled,
  required,
  writePlan,
  type LineUpEntry,
  type PlanAddress,
} from './address.ts';
export { sentenceAddress, sentencePlan, type Hearing } from './sentenceAddress.ts';
export { invitedWith, type LineUpInvitee } from './invitees.ts';
export { AddMember, useLineUps } from './AddMember.tsx';
export { fitWords } from './fitWords.ts';
export { PeopleField } from './PeopleField.tsx';
export { useGathering, type Gathering } from './useGathering.ts';
export {
  useLineUpData,
  type EventToMove,
  type KnownMember,
  type Member,
  type MyMeeting,
} from './useLineUpData.ts';
