/** The people of the installation and its partners. */
export { contactsById, foreseeContacts } from './contacts.ts';
export { findContacts, isPresent, readHours, readStewards, type Contact } from './queries.ts';
export { peopleApi } from './routes.ts';
