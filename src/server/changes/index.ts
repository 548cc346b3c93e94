/** What was done to things that are no meetings: the log of it, and taking it back. */
export { changesApi } from './routes.ts';
