import { z } from 'zod';
import { isDate, isWallTime, isZone } from '../core/time/wall.ts';

/** Instants travel as epoch milliseconds. */
export const instant = z
  .number({ error: 'must be an instant in epoch milliseconds' })
  .int('must be an instant in epoch milliseconds');

export const wallTime = z
  .string({ error: 'must be a local time such as 2026-11-26T14:00' })
  .refine(isWallTime, 'must be a local time such as 2026-11-26T14:00, on a day that exists')
  .refine(
    (text) => text >= '2000-01-01' && text < '2100-01-01',
    'must lie between the years 2000 and 2099',
  );

export const calendarDate = z
  .string({ error: 'must be a date such as 2026-11-26' })
  .refine(isDate, 'must be a date such as 2026-11-26 that exists');

export const zone = z
  .string({ error: 'must be a time zone such as Europe/Oslo' })
  .refine(isZone, 'must be a time zone known here, such as Europe/Oslo');

export const subjectId = z.number({ error: 'must be a number' }).int().positive('must be a number');

/** A number that arrives in an address. */
export const idInPath = z.coerce.number({ error: 'must be a number' }).int().positive();

/** Free text of one line, trimmed. */
export const line = (most: number) =>
  z.string({ error: 'must be text' }).trim().max(most, `may be at most ${most} characters long`);

export const requiredLine = (most: number) => line(most).min(1, 'must not be empty');

export const mailAddress = z
  .string({ error: 'must be a mail address' })
  .trim()
  .max(254, 'may be at most 254 characters long')
  .pipe(z.email('must be a mail address such as name@example.org'));

/** Problem details (RFC 9457) as every refusal is told. */
export interface ProblemBody {
  type: 'about:blank';
  title: string;
  status: number;
  /** A short, stable name for programs. */
  code: string;
  /** A sentence for people. */
  detail: string;
  /** The fields concerned, as paths into the request, and what is allowed there. */
  fields?: { field: string; message: string }[];
  [extra: string]: unknown;
}
