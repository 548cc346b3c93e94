/** What happened: written once, in the transaction in which it happened. */
export { countFacts, recordFacts, type Revised } from './queries.ts';
