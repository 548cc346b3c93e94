/** What people have chosen for themselves. */
export { preferencesRoutes } from './routes.ts';
export { preferencesOf } from './service.ts';
