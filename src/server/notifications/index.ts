/** What people hear of: behind the bell, or in a letter a day. */
export { dailyLetterJob, sendDailyLetters } from './daily.ts';
export { forgetAbout } from './queries.ts';
export { notificationsApi } from './routes.ts';
export { newsConsumer } from './notify.ts';
