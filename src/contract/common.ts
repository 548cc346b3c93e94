import { isMailAddress, LONGEST_ADDRESS } from '../core/mailAddress.ts';
import { z } from 'zod';
import { isDate, isWallTime } from '../core/time/wall.ts';
import { isZone } from '../core/time/zones.ts';

const FIRST_YEAR = 1900;
const LAST_YEAR = 2199;
const YEARS = `must lie between the years ${FIRST_YEAR} and ${LAST_YEAR}`;

/** Instants travel as epoch milliseconds. */
export const instant = z
  .number({ error: 'must be an instant in epoch milliseconds' })
  .int('must be an instant in epoch milliseconds')
  .min(Date.UTC(FIRST_YEAR, 0, 1), YEARS)
  .max(Date.UTC(LAST_YEAR + 1, 0, 1), YEARS);

export const wallTime = z
  .string({ error: 'must be a local time such as 2026-11-26T14:00' })
  .refine(isWallTime, 'must be a local time such as 2026-11-26T14:00, on a day that exists')
  .refine(
    (text) => text >= '2000-01-01' && text < '2100-01-01',
    'must lie between the years 2000 and 2099',
  );

export const calendarDate = z
  .string({ error: 'must be a date such as 2026-11-26' })
  .refine(isDate, 'must be a date such as 2026-11-26 that exists')
  .refine((text) => text >= `${FIRST_YEAR}` && text < `${LAST_YEAR + 1}`, YEARS);

export const zone = z
  .string({ error: 'must be a time zone such as Europe/Oslo' })
  .refine(isZone, 'must be a time zone known here, such as Europe/Oslo');

/** What the database numbers its rows with. */
const LARGEST_ID = 2 ** 31 - 1;
const AN_ID = 'must be the number of something there is';

export const subjectId = z
  .number({ error: 'must be a number' })
  .int(AN_ID)
  .positive(AN_ID)
  .max(LARGEST_ID, AN_ID);

/** Ids, each once however often it is named: a short question does not make a long answer. */
export const idSet = (least: number, most: number, what: string) =>
  z
    .array(subjectId, { error: 'must be a list of ids' })
    .max(most, `may name at most ${most} ${what}`)
    .min(least, `must name at least ${least} of ${what}`)
    .transform((ids) => [...new Set(ids)]);

/** A number that arrives in an address. */
export const idInPath = z.coerce
  .number({ error: 'must be a number' })
  .int(AN_ID)
  .positive(AN_ID)
  .max(LARGEST_ID, AN_ID);

/** Something by its number, in an address. */
export const byId = z.strictObject({ id: idInPath });

/** Which state of something was read, before it is changed. */
export const versionRead = z
  .number({ error: 'must be the version you have read' })
  .int('must be the version you have read')
  .positive('must be the version you have read')
  .max(LARGEST_ID, 'must be the version you have read');

/** Control characters but for tabs and line breaks: they are nobody's text, and some cannot be kept. */
// eslint-disable-next-line no-control-regex -- they are what is looked for
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/;
/** Half of a character, which no text can be kept with (RFC 8259 section 8.2). */
const HALF_A_CHARACTER = /\p{Surrogate}/u;

/** Text as it is, line breaks and all. */
export const plainText = (most: number) =>
  z
    .string({ error: 'must be text' })
    .max(most, `may be at most ${most} characters long`)
    .refine((value) => !CONTROL.test(value), 'must not hold control characters')
    .refine((value) => !HALF_A_CHARACTER.test(value), 'must not hold half a character')
    .transform((value) => value.replace(/\r\n?/g, '\n'));

/** Free text of several lines, trimmed. */
export const text = (most: number) => plainText(most).transform((value) => value.trim());

/** Free text of one line, trimmed; line breaks become spaces. */
export const line = (most: number) =>
  text(most).transform((value) => value.replace(/[\n\t]+/g, ' '));

export const requiredLine = (most: number) =>
  line(most).refine((value) => value !== '', 'must not be empty');

export const mailAddress = z
  .string({ error: 'must be a mail address' })
  .trim()
  .max(LONGEST_ADDRESS, `may be at most ${LONGEST_ADDRESS} characters long`)
  .refine(isMailAddress, 'must be a mail address such as name@example.org')
  .transform((address) => address.normalize('NFC'));

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
  /** By which those who run it find the request in the log. */
  requestId?: string;
  [extra: string]: unknown;
}
