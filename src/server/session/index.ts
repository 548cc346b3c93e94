/** Who is signed in. */
export { actingFor, actorById, bookingFor } from './acting.ts';
export { sessions, signInAs } from './middleware.ts';
export {
  demonstration,
  isDemonstration,
  forgetSessions,
  nobodyThere,
  organizationName,
} from './queries.ts';
export { sessionRoutes } from './routes.ts';
export { forgetDevices } from './service.ts';
