/** The places there are, as those who look after them keep them. */
export { catalogueRoutes } from './routes.ts';
