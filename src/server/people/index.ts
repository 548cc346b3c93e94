/** The people of the installation and its partners. */
export { findContacts, readHours } from './queries.ts';
export { peopleRoutes } from './routes.ts';
