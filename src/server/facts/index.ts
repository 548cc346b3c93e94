/** What happened, and how it is taken back: written once, in the transaction in which it happened. */
export { foresee, publish, type FactConsumer, type Happened } from './consumers.ts';
export {
  countFacts,
  deleteThingRevisions,
  lockThingRevisions,
  readThingFacts,
  recordFacts,
  type ChangeOf,
  type LoggedFact,
  type Revised,
  type ThingRevision,
} from './queries.ts';
export { readHouseLog, type HouseFact } from './logQueries.ts';
export {
  commitThings,
  type ThingChange,
  type ThingsTakenBack,
  type ThingHistory,
} from './things.ts';
