/** Who is signed in. */
export { sessions, signInAs } from './middleware.ts';
export { demonstration, forgetSessions, nobodyThere } from './queries.ts';
export { sessionRoutes } from './routes.ts';
export { forgetDevices } from './service.ts';
