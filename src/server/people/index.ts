/** The people of the installation and its partners. */
export { findContacts, readHours, readStewards, type Contact } from './queries.ts';
export { peopleRoutes } from './routes.ts';
