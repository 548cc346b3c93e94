/** Line-ups that people remember. */
export { lineUpsApi } from './routes.ts';
