import { z } from 'zod';
import { line, text } from './common.ts';

export const mailroomQuery = z.strictObject({ recipient: line(254).optional() });
export const mailroomPath = z.strictObject({ id: z.uuid('must be the id of a message') });

export const mailroomAnswer = z.strictObject({
  reply: z.enum(['accepted', 'tentative', 'declined'], {
    error: 'must be "accepted", "tentative" or "declined"',
  }),
  note: text(2000).default(''),
});
export type MailroomAnswer = z.input<typeof mailroomAnswer>;

export interface MailroomEntry {
  id: string;
  sender: string;
  recipient: string;
  subject: string;
  receivedAt: number;
}

export interface MailroomMessage extends MailroomEntry {
  from: { name: string; address: string };
  to: { name: string; address: string };
  text: string;
  /** The text/calendar part, and its method. */
  calendar: string | null;
  method: string | null;
}
