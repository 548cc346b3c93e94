import type { DatesFit } from '../../contract/invitations.ts';
import { formatDay, formatSpan, type ClockStyle } from '../../core/time/format.ts';

/** What an answer to a series covers. */
export type Covers = 'all' | 'one';

/**
 * The two that an answer to a series can cover, in words.
 * @param date the date in view
 */
export const coverOptions = (
  date: { start: number; end: number },
  me: { zone: string; clock: ClockStyle },
): [Covers, string][] => [
  ['all', 'all dates of the series'],
  ['one', `${formatSpan(date, me.zone, me.clock)} alone`],
];

/** `fits all 12 dates`, `fits 9 of 12 dates; collides on Tue 1 Dec (Dentist), Tue 8 Dec (Leave) and 1 more`. */
export function datesFitWords({ count, fitting, collisions }: DatesFit, zone: string): string {
  const dates = count === 1 ? 'the one date to come' : `${count} dates to come`;
  if (fitting === count) return count === 1 ? `fits ${dates}` : `fits all ${dates}`;
  const named = collisions.map(({ start, title }) => `${formatDay(start, zone)} (${title})`);
  const more = count - fitting - named.length;
  return `fits ${fitting} of ${dates}; collides on ${named.join(', ')}${more > 0 ? ` and ${more} more` : ''}`;
}
