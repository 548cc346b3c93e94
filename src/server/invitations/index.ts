/** What waits for my answer, and who answered what to mine. */
export { latestMessage } from './queries.ts';
export { invitationsApi } from './routes.ts';
export { readDaysAround, exceptOf } from './daysAround.ts';
