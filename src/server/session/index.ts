/** Who is signed in. */
export { actingFor, actorById, bookingFor } from './acting.ts';
export { sessions, sessionToken, setSignedOut, signInAs } from './middleware.ts';
export {
  demonstration,
  forgetSessions,
  nobodyThere,
  organizationName,
  readSessions,
  readVouched,
} from './queries.ts';
export { sessionApi } from './routes.ts';
export { endOwnSession, endSession, endSessionsOf, tokenHash } from './service.ts';
