import { parseAnswer, type AnswerMessage } from './parse.ts';
import { parseRequest, type RequestMessage } from './request.ts';

/** What the calendar part of a letter is, as plain values. */
export type CalendarPart =
  /** Somebody elsewhere tells of a meeting that they organize. */
  | { kind: 'request'; message: RequestMessage }
  /** Somebody invited sends something back. */
  | { kind: 'answer'; message: AnswerMessage }
  /** It cannot be read, or not as what it says it is; a sentence says why. */
  | { kind: 'unreadable'; as: 'request' | 'answer'; why: string };

/**
 * Reads a calendar part that came from outside, by the method it names (RFC 5546 section 1.4). What it
 * costs is bounded by its length, lines, parts and dates.
 */
export function readPart(calendar: string): CalendarPart {
  const as = isRequestText(calendar) ? 'request' : 'answer';
  try {
    return as === 'request'
      ? { kind: as, message: parseRequest(calendar) }
      : { kind: as, message: parseAnswer(calendar) };
  } catch (error) {
    return {
      kind: 'unreadable',
      as,
      why: error instanceof Error ? error.message : 'It is no text.',
    };
  }
}

/** Whether a calendar part says that it tells of a meeting organized elsewhere. */
const isRequestText = (calendar: string): boolean =>
  /^METHOD:(?:REQUEST|CANCEL|ADD)[ \t\r]*$/im.test(calendar);
