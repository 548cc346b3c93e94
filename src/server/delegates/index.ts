/** Who plans, answers and books for somebody else. */
export { delegatesApi } from './routes.ts';
export { dropDelegations, putDelegations, type Delegation } from './queries.ts';
