/** What stands in calendars, how full days are, search, layers, what was cancelled. */
export { readCalendar } from './queries.ts';
export { calendarApi } from './routes.ts';
