/** All that is kept of somebody, as one file for themselves. */
export { archiveApi } from './routes.ts';
