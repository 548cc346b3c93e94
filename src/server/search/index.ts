/** Finding people, teams and resources by name. */
export { searchRoutes } from './routes.ts';
