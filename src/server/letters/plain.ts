import type { OutgoingMail } from '../mail/index.ts';
import { layOutLetter } from './html.ts';
import { letterText, type Letter } from './words.ts';

/** A letter that is about no meeting's invitation and carries no calendar part. */
export const plainMail = (
  letter: Letter,
  to: { name: string; email: string },
  // From Marmot itself, at the receiver's own domain, unless somebody writes it.
  from = { name: 'Marmot', email: `marmot@${to.email.split('@')[1]}` },
): OutgoingMail => ({
  eventId: null,
  attendeeId: null,
  from: { name: from.name, email: from.email },
  to: { name: to.name, email: to.email },
  subject: letter.subject,
  text: letterText(letter),
  html: layOutLetter(letter),
  calendar: null,
});
