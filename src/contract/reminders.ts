import { z } from 'zod';
import { defineRoutes } from './route.ts';

/** A reminder of a meeting of mine that is due, or put off until it is again. */
export const dueReminder = z.strictObject({
  id: z.int(),
  eventId: z.uuid(),
  /** The date of a series; null for what happens once. */
  recurrenceId: z.string().nullable(),
  title: z.string(),
  place: z.string(),
  start: z.int(),
  end: z.int(),
  allDay: z.boolean(),
  /** When it is to be shown, epoch milliseconds. */
  dueAt: z.int(),
});
export type DueReminder = z.output<typeof dueReminder>;

export const remindersResponse = z.strictObject({
  reminders: z.array(dueReminder),
});
export type RemindersResponse = z.output<typeof remindersResponse>;

const which = z.union(
  [
    z.literal('all'),
    z.array(z.int().positive()).min(1, 'must name at least one').max(500, 'may name at most 500'),
  ],
  { error: 'must be "all" or a list of the numbers of reminders' },
);

export const snoozeRequest = z.strictObject({
  reminders: which,
  /** From now; "start" is when each meeting begins. */
  until: z.union(
    [
      z.literal('start'),
      z
        .int()
        .min(1)
        .max(7 * 24 * 60),
    ],
    {
      error: 'must be "start" or 1 to 10080 minutes',
    },
  ),
});
export type SnoozeRequest = z.input<typeof snoozeRequest>;

export const dismissRequest = z.strictObject({ reminders: which });
export type DismissRequest = z.input<typeof dismissRequest>;

/** /api/reminders: those that are due, putting them off and away. */
export const remindersRoutes = defineRoutes({
  'GET /api/reminders': { may: 'read own', answer: remindersResponse, replica: true },
  'POST /api/reminders/snooze': {
    may: 'change own',
    body: snoozeRequest,
    answer: remindersResponse,
  },
  'POST /api/reminders/dismiss': {
    may: 'change own',
    body: dismissRequest,
    answer: remindersResponse,
  },
});
