/** What waits for my answer, and who answered what to mine. */
export { invitationsRoutes } from './routes.ts';
