/** Who is signed in. */
export { actingFor, actorById, bookingFor } from './acting.ts';
export { sessions, signInAs } from './middleware.ts';
export { demonstration, forgetSessions, nobodyThere, organizationName } from './queries.ts';
export { sessionApi } from './routes.ts';
