/** All bookings as a table: sorted, put together, written out, and changed together. */
export { ledgerRoutes } from './routes.ts';
export { tallyJob } from './tally.ts';
