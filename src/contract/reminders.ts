import { z } from 'zod';

/** A reminder of a meeting of mine that is due, or put off until it is again. */
export interface DueReminder {
  id: number;
  eventId: string;
  /** The date of a series; null for what happens once. */
  recurrenceId: string | null;
  title: string;
  place: string;
  start: number;
  end: number;
  allDay: boolean;
  /** When it is to be shown, epoch milliseconds. */
  dueAt: number;
}

export interface RemindersResponse {
  reminders: DueReminder[];
}

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
