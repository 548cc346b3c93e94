/** Reminders of mine that are due, over every view. */
export { Reminders } from './Reminders.tsx';
