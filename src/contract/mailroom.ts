import { z } from 'zod';
import { line, text } from './common.ts';
import { limit } from './paging.ts';

/** Letters to one address, or whose receiver or subject holds some words, a part at a time. */
export const mailroomQuery = z.strictObject({
  recipient: line(254).optional(),
  q: line(254).default(''),
  after: z.uuid('must be the id of a message').optional(),
  limit,
});
export type MailroomQuery = z.output<typeof mailroomQuery>;
export const mailroomPath = z.strictObject({ id: z.uuid('must be the id of a message') });

export const mailroomAnswer = z.strictObject({
  reply: z.enum(['accepted', 'tentative', 'declined'], {
    error: 'must be "accepted", "tentative" or "declined"',
  }),
  note: text(2000).default(''),
  /** Another time that is asked for: the answer is then a COUNTER. */
  instead: z
    .strictObject({
      start: z.int('must be an instant in milliseconds'),
      end: z.int('must be an instant in milliseconds'),
    })
    .optional(),
});

/** What became of a mail that was dropped: counted, or put aside with a reason. */
export interface MailroomDropped {
  state: 'counted' | 'automatic' | 'bounced' | 'aside';
  reason: string;
}
export type MailroomAnswer = z.input<typeof mailroomAnswer>;

export interface MailroomEntry {
  id: string;
  sender: string;
  recipient: string;
  subject: string;
  receivedAt: number;
}

/** A part of the letters there are, newest first. */
export interface MailroomList {
  entries: MailroomEntry[];
  total: number;
}

export interface MailroomMessage extends MailroomEntry {
  from: { name: string; address: string };
  to: { name: string; address: string };
  text: string;
  /** The text/calendar part, and its method. */
  calendar: string | null;
  method: string | null;
}
