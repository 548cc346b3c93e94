/** Busy times of a line-up and of rooms, openings, and what Plan needs beside them. */
export { availabilityRoutes } from './routes.ts';
