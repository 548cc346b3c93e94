/** What other capabilities may use of events. */
export { insertPeopleClaims, insertResourceClaims, replacePersonClaims } from './claimQueries.ts';
export { peopleOf, type EventRecord } from './model.ts';
export { detailFor, ownEvent, visibleEvent } from './present.ts';
export { happensAt } from './choices.ts';
export { planOf } from './model.ts';
export { insertLog, lockEvent, readEvent } from './queries.ts';
