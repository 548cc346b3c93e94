/** Bookings of places as they are used: checked in to, left, given up, agreed to. */
export { bookingsJob } from './clockwork.ts';
export { bookingsApi } from './routes.ts';
