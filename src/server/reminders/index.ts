/** Reminders of meetings: found when they come due, shown, put off and mailed. */
export { remindersRoutes } from './routes.ts';
export { remind, reminderJob } from './remind.ts';
