import { z } from 'zod';
import type { FactKind } from '../core/meetings/decision.ts';
import type { Hearing, NoticeKind } from '../core/meetings/notices.ts';
import type { Reply } from './eventDetail.ts';

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

export type HearingChoices = Record<NoticeKind, Hearing>;

/** Something that I hear of at once. */
export interface Notification {
  id: number;
  kind: NoticeKind;
  what: FactKind;
  eventId: string;
  /** The one date of a series that it is about; null for all of it. */
  occurrence: string | null;
  /** As they were when it happened. Epoch milliseconds. */
  title: string;
  start: number;
  end: number;
  allDay: boolean;
  /** Whoever did it. */
  by: string;
  /** For whom I act and whose news it is; null where it is mine. */
  for: string | null;
  /** Whether I organize it. */
  mine: boolean;
  /** What they answered, where that is what happened. */
  reply: Reply | null;
  /** What they wrote with it. */
  words: string;
  at: number;
  isRead: boolean;
}

export interface NotificationsResponse {
  /** The latest first. */
  notifications: Notification[];
  unread: number;
}

export const readNotificationsRequest = z.strictObject({
  /** The number of the latest that was seen; it and all before it are read. */
  upTo: z.int({ error: 'must be the number of a notification' }).positive(),
});
export type ReadNotificationsRequest = z.input<typeof readNotificationsRequest>;
