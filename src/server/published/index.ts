/** Busy times that people of other organizations publish. */
export { replaceTimes } from './queries.ts';
export { publishedJob, readPublished, refreshPublished, type PublishedTimes } from './service.ts';
export { webCalendars, type PublishedCalendars } from './source.ts';
