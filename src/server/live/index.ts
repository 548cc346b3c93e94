/** What changed, to the browsers that show it, on every server process. */
export { LiveHub } from './hub.ts';
export { announce } from './queries.ts';
export { liveApi } from './routes.ts';
export { CHANNEL, DIRECTORY, liveNotices, subjectOf } from './subjects.ts';
