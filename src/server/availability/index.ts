/** Busy times of a line-up and of rooms, openings, and what Plan needs beside them. */
export { pastMeetings } from './history.ts';
export { availabilityApi } from './routes.ts';
export { membersOf, readBusyTimes } from './service.ts';
