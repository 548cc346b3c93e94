/** What people have chosen for themselves. */
export { preferencesApi } from './routes.ts';
export { preferencesOf } from './service.ts';
