/** Finding people, teams and resources by name. */
export { searchApi } from './routes.ts';
