/** What waits for my answer, and who answered what to mine. */
export { latestMessage } from './queries.ts';
export { invitationsRoutes } from './routes.ts';
export { daysAround, exceptOf } from './daysAround.ts';
