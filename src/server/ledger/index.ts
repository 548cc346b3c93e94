/** All bookings as a table: sorted, put together, written out, and changed together. */
export { ledgerApi } from './routes.ts';
export { tallyJob } from './tallyQueries.ts';
