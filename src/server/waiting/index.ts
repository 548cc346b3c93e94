/** Who waits for a place that is taken, and who has it once it comes free. */
export { waitingJob } from './clockwork.ts';
export { waitFor } from './service.ts';
export { waitingApi } from './routes.ts';
export { dropWaiting, putWaiting, type WaitingRow } from './queries.ts';
