import { z } from 'zod';
import { noticeKind, deliveryPreference, factKind, reply } from './values.ts';
import { defineRoutes } from './route.ts';

const hearing = z.enum(['now', 'daily', 'never'], {
  error: 'must be "now", "daily" or "never"',
});

/** How I hear of each kind of news; those left out stay as they are. */
export const hearingChange = z
  .strictObject({
    invitations: hearing,
    changes: hearing,
    answers: hearing,
    'other-times': hearing,
    comments: hearing,
    mentions: hearing,
    places: hearing,
  })
  .partial();

export const hearingChoices = z.record(noticeKind, deliveryPreference);

/** Something that I hear of at once. */
export const notification = z.strictObject({
  id: z.int(),
  kind: noticeKind,
  what: factKind,
  eventId: z.uuid(),
  /** The one date of a series that it is about; null for all of it. */
  occurrence: z.string().nullable(),
  /** As they were when it happened. Epoch milliseconds. */
  title: z.string(),
  start: z.int(),
  end: z.int(),
  allDay: z.boolean(),
  /** Whoever did it. */
  by: z.string(),
  /** For whom I act and whose news it is; null where it is mine. */
  for: z.string().nullable(),
  /** Whether I organize it. */
  mine: z.boolean(),
  /** What they answered, where that is what happened. */
  reply: reply.nullable(),
  /** Whether nobody but its organizer takes part: a booking. */
  isBooking: z.boolean(),
  /** Which place it has instead, where one goes out of use; empty for anything else. */
  where: z.string(),
  /** What they wrote with it. */
  words: z.string(),
  at: z.int(),
  isRead: z.boolean(),
});
export type Notification = z.output<typeof notification>;

export const notificationsResponse = z.strictObject({
  /** The latest first. */
  notifications: z.array(notification),
  unread: z.int(),
});
export type NotificationsResponse = z.output<typeof notificationsResponse>;

export const readNotificationsRequest = z.strictObject({
  /** The number of the latest that was seen; it and all before it are read. */
  upTo: z.int({ error: 'must be the number of a notification' }).positive(),
});
export type ReadNotificationsRequest = z.input<typeof readNotificationsRequest>;

/** /api/notifications: what somebody hears of at once, and that they have read it, on whatever device. */
export const notificationsRoutes = defineRoutes({
  'GET /api/notifications': { may: 'read own', answer: notificationsResponse, replica: true },
  'POST /api/notifications/read': {
    may: 'change own',
    body: readNotificationsRequest,
    answer: notificationsResponse,
  },
});
