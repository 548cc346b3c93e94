/** How an installation begins: its organization and first administrator. */
export { setupRoutes } from './routes.ts';
export { setupLink } from './service.ts';
