/** What happened: written once, in the transaction in which it happened. */
export { foresee, publish, type FactConsumer, type Happened } from './consumers.ts';
export { countFacts, recordFacts, type Revised } from './queries.ts';
