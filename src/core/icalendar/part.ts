import { parseAnswer, type AnswerMessage } from './parse.ts';
import { parseRequests, type RequestMessage } from './request.ts';
import { UnknownClock, type Clock } from './zones.ts';

/** What the calendar part of a letter is, as plain values. */
export type CalendarPart =
  /** Somebody elsewhere tells of meetings that they organize, one or more. */
  | { kind: 'request'; messages: RequestMessage[] }
  /** Somebody invited sends something back. */
  | { kind: 'answer'; message: AnswerMessage }
  /** It cannot be read, or not as what it says it is; a sentence says why. */
  | {
      kind: 'unreadable';
      as: 'request' | 'answer';
      why: string;
      /** Whether it can be read once somebody says by whose clock its times are. */
      wantsClock: boolean;
    };

/**
 * Reads a calendar part that came from outside, by the method it names (RFC 5546 section 1.4). What it
 * costs is bounded by its length, lines, parts and dates.
 * @param clock by which the times of an invitation are read where it does not say by which
 */
export function readPart(calendar: string, clock: Clock = { zone: 'UTC' }): CalendarPart {
  const as = isRequestText(calendar) ? 'request' : 'answer';
  try {
    return as === 'request'
      ? { kind: as, messages: parseRequests(calendar, clock) }
      : { kind: as, message: parseAnswer(calendar) };
  } catch (error) {
    return {
      kind: 'unreadable',
      as,
      why: isSaid(error) ? error.message : 'It holds something that is no calendar.',
      wantsClock: error instanceof UnknownClock,
    };
  }
}

/** Whether an error says in a sentence what is wrong; what a parser stumbled over is none. */
const isSaid = (error: unknown): error is Error =>
  error instanceof Error && /^[A-Z].*\.$/s.test(error.message);

/** Whether a calendar part tells of a meeting organized elsewhere; one that says nothing of itself does. */
const isRequestText = (calendar: string): boolean =>
  /^METHOD:(?:REQUEST|CANCEL|ADD|PUBLISH)[ \t\r]*$/im.test(calendar) ||
  !/^METHOD[:;]/im.test(calendar);
