import { z } from 'zod';
import { text } from './common.ts';
import { proposeRequest } from './asking.ts';
import type { Reply } from './eventDetail.ts';
import { daysQuery, replyRequest } from './invitations.ts';

/** What the letter to somebody outside holds: who they are among those invited, and a proof of it. */
export const guestPath = z.strictObject({
  token: z.string().regex(/^[0-9a-z]{1,13}~[A-Za-z0-9_-]{43}$/, 'must be the link of a letter'),
});

export const guestReplyRequest = z.strictObject({
  reply: replyRequest.shape.reply,
  note: text(2000).default(''),
});
export type GuestReplyRequest = z.input<typeof guestReplyRequest>;

export const guestProposeRequest = proposeRequest.omit({ occurrence: true });
export type GuestProposeRequest = z.input<typeof guestProposeRequest>;

export const guestDaysQuery = daysQuery.omit({ occurrence: true, for: true });

/** An invitation as somebody outside sees it. */
export interface GuestInvitation {
  title: string;
  organizer: string;
  organization: string;
  /** Who is asked. */
  name: string;
  role: 'required' | 'optional';
  status: 'confirmed' | 'cancelled';
  /** Of the next date, or the last. Epoch milliseconds. */
  start: number;
  end: number;
  allDay: boolean;
  /** The organizer's own, and how people call where that is. */
  zone: string;
  city: string;
  place: string;
  /** Clean HTML. */
  description: string;
  /** How it repeats, in words; null for once. */
  repeats: string | null;
  /** What the organizer last wrote to those who are invited. */
  message: string | null;
  /** Names of the first few others, and how many more there are. */
  others: string[];
  more: number;
  reply: Reply;
  note: string;
  /** Other times they ask for, of the date that is shown. */
  proposals: { start: number; end: number }[];
  /** Whether it is too late to answer: it is over, or cancelled. */
  isOver: boolean;
  /** The server's present instant, epoch milliseconds. */
  now: number;
}
