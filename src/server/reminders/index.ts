/** Reminders of meetings: found when they come due, shown, put off and mailed. */
export { remindersApi } from './routes.ts';
export { remind, reminderJob } from './remind.ts';
