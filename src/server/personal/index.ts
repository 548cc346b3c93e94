/** What each person has of their own about events: a category and reminders. */
export const personalBelongings = [
  { table: 'event_category', columns: ['person_id', 'category_id'], identity: ['person_id'] },
  { table: 'reminder_choice', columns: ['person_id'], identity: ['person_id'] },
  {
    table: 'reminder',
    columns: ['person_id', 'minutes_before', 'means'],
    identity: ['person_id', 'minutes_before', 'means'],
  },
];
export { beginPersonal, changePersonal } from './service.ts';
