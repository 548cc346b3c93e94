/** How an installation begins: its organization and first administrator. */
export { setupApi } from './routes.ts';
export { setupLink } from './service.ts';
