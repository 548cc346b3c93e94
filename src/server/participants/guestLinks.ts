import { createHmac, timingSafeEqual } from 'node:crypto';

const proof = (key: string, attendeeId: number): Buffer =>
  createHmac('sha256', key).update(`answer for attendee ${attendeeId}`).digest();

/**
 * The link by which somebody outside answers for themselves and for nothing else. It ends with their
 * place among those invited, whose number is never given again. It has no dot, by which an address
 * would look like a file's.
 */
export const guestToken = (key: string, attendeeId: number): string =>
  `${attendeeId.toString(36)}~${proof(key, attendeeId).toString('base64url')}`;

/** Whose link it is, by the attendee's number; null where it is nobody's. */
export function readToken(key: string, token: string): number | null {
  const [id = '', given = ''] = token.split('~');
  const attendeeId = Number.parseInt(id, 36);
  if (!Number.isSafeInteger(attendeeId)) return null;
  const bytes = Buffer.from(given, 'base64url');
  const wanted = proof(key, attendeeId);
  return bytes.length === wanted.length && timingSafeEqual(bytes, wanted) ? attendeeId : null;
}
