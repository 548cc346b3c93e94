import { termInWords } from '../../core/booking/ruleWords.ts';
import type { Fit } from '../../core/planner/fit.ts';
import { formatTime, untilWords, type ClockStyle } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { Member } from './useLineUpData.ts';

/**
 * How a time suits one of the line-up: `free`, `taken until 11:00`, `outside their hours, 07:00 there`.
 * @param clash the name of what is in the way, where it may be seen
 */
export function fitWords(
  fit: Fit,
  member: Pick<Member, 'id' | 'zone' | 'kind'>,
  span: Interval,
  reader: { id: number; zone: string; clock: ClockStyle },
  clash?: string,
): string {
  const until = fit.until === null ? '' : ` ${untilWords(fit.until, span.start, reader)}`;
  switch (fit.state) {
    case 'free':
      return 'free';
    case 'busy':
      return clash ? `“${clash}”${until}` : `taken${until}`;
    case 'tentative':
      return clash ? `perhaps “${clash}”${until}` : `perhaps taken${until}`;
    case 'away':
      return `away${until}`;
    case 'barred':
      return fit.broken ? termInWords(fit.broken) : 'cannot be booked then';
    case 'holiday':
      return fit.holiday ?? 'a public holiday';
    case 'unknown':
      return 'nothing is known';
    case 'outside':
      return member.kind === 'resource'
        ? 'closed then'
        : member.zone === reader.zone
          ? `outside ${member.id === reader.id ? 'your' : 'their'} hours`
          : `outside their hours, ${formatTime(span.start, member.zone, reader.clock)} there`;
  }
}
