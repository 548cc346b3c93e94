/** What capabilities use to speak HTTP; the application itself is put together by the server. */
export { noteActor, noteSession, sessionSubject, whoAsks } from './access.ts';
export { act } from './action.ts';
export { fairShare } from './fairness.ts';
export { implement, MadeAgain, routerOf, type Asked, type Capability } from './implement.ts';
export { ConcurrencyLimiter } from './concurrencyLimiter.ts';
export { networkOf } from './network.ts';
export { Problem } from './problem.ts';
export { makesAgain } from './idempotency.ts';
export { forgetKeys } from './keyQueries.ts';
export { cellOf, csvLine } from './csv.ts';
