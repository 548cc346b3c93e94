/** The people of the installation and its partners. */
export { contactsById, foreseeContacts } from './contacts.ts';
export { findContacts, readHours, readStewards, type Contact } from './queries.ts';
export { peopleApi } from './routes.ts';
