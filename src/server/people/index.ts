/** The people of the installation and its partners. */
export { findContacts, readHours, type Contact } from './queries.ts';
export { peopleRoutes } from './routes.ts';
