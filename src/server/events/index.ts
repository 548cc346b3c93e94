/** What other capabilities may use of events. */
export { readCalendar } from './calendarQueries.ts';
export { peopleOf, type EventRecord } from './model.ts';
export { detailFor, visibleEvent } from './present.ts';
export { insertClaims, insertLog, lockEvent, readEvent, replacePersonClaims } from './queries.ts';
