/** Line-ups that people remember. */
export { lineUpsRoutes } from './routes.ts';
