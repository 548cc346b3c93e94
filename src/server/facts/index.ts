/** What happened: written once, in the transaction in which it happened. */
export { recordFacts, type Revised } from './queries.ts';
