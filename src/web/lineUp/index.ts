/** Whom and what something needs, and the address of a plan for it: small, as every page holds it. */
export {
  asKept,
  FEWEST_DAYS,
  joined,
  MOST_DATES,
  MOST_DAYS,
  outsider,
  planPath,
  readPlan,
  recalled,
  required,
  writePlan,
  type LineUpEntry,
  type PlanAddress,
} from './address.ts';
export { sentenceAddress } from './sentenceAddress.ts';
export { invitedWith, type Invitee } from './invitees.ts';
