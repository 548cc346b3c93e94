/** Who is signed in. */
export { actingFor, actorById, bookingFor } from './acting.ts';
export { sessions, sessionToken, signInAs } from './middleware.ts';
export {
  demonstration,
  forgetSessions,
  nobodyThere,
  organizationName,
  readSessions,
} from './queries.ts';
export { sessionApi } from './routes.ts';
export { endOwnSession, endSessionsOf, tokenHash } from './service.ts';
