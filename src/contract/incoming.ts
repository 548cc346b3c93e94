import { z } from 'zod';

export const incomingPath = z.strictObject({ id: z.uuid('must be the id of a mail') });

/** A mail about a meeting of mine, or to my own address, that could not be counted by itself. */
export interface AsideMail {
  id: string;
  receivedAt: number;
  sender: string;
  subject: string;
  words: string;
  /** Why it was put aside, in a sentence. */
  reason: string;
  /** Whether it can be counted by hand: it carries an answer, or an invitation. */
  canCount: boolean;
}

export interface AsideList {
  mails: AsideMail[];
}
