import { createHmac, timingSafeEqual } from 'node:crypto';
import { PROOF_LENGTH } from './limits.ts';

const proof = (key: string, attendeeId: number): string =>
  createHmac('sha256', key)
    .update(`mail from attendee ${attendeeId}`)
    .digest('hex')
    .slice(0, PROOF_LENGTH);

/**
 * Where answers to the letters of somebody who is invited go. Nobody can make up another's; it ends
 * with their place among those invited. Of small letters alone, as some mail programs change them.
 */
export const answerAddress = (key: string, attendeeId: number, domain: string): string =>
  `answers+${attendeeId.toString(36)}-${proof(key, attendeeId)}@${domain}`;

/** Whose letter was answered at an address, by the attendee's number; null where it is nobody's. */
export function readAnswerAddress(key: string, address: string): number | null {
  const match = /^answers\+([0-9a-z]{1,13})-([0-9a-f]{32})@/.exec(address.trim().toLowerCase());
  const attendeeId = Number.parseInt(match?.[1] ?? '', 36);
  if (!match || !Number.isSafeInteger(attendeeId)) return null;
  const [given, wanted] = [Buffer.from(match[2]!), Buffer.from(proof(key, attendeeId))];
  return timingSafeEqual(given, wanted) ? attendeeId : null;
}
