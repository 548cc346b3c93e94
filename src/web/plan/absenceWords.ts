import type { Fit } from '../../core/planner/fit.ts';
import { givenName } from '../../core/planner/words.ts';
import { type ClockStyle, formatTime, untilWords } from '../../core/time/format.ts';
import { type Member } from '../lineUp/index.ts';

interface Reader {
  zone: string;
  clock: ClockStyle;
}

/** Why somebody or something is not free at a moment, in a few words. */
export function absenceWords(fit: Fit, member: Member, from: number, reader: Reader): string {
  const until = fit.until === null ? '' : ` ${untilWords(fit.until, from, reader)}`;
  switch (fit.state) {
    case 'busy':
      return `taken${until}`;
    case 'tentative':
      return `tentative${until}`;
    case 'away':
      return `away${until}`;
    case 'barred':
      return 'cannot be booked';
    case 'holiday':
      return fit.holiday!;
    case 'outside':
      return `${formatTime(from, member.zone, reader.clock)} there, outside their hours`;
    case 'unknown':
      return 'not known';
    case 'free':
      return 'free';
  }
}

const MOST_NAMES = 6;

/** Who is missing at a moment and why: `Mika (04:15 there, …), Gannet (taken until 15:00)`. */
export function missingWords(
  fits: readonly Fit[],
  members: readonly Member[],
  from: number,
  reader: Reader,
): string {
  const byId = new Map(members.map((one) => [one.id, one]));
  const missing = fits.filter((fit) => fit.state !== 'free');
  const named = missing.slice(0, MOST_NAMES).map((fit) => {
    const member = byId.get(fit.id)!;
    const name = member.kind === 'person' && !member.outside ? givenName(member) : member.name;
    return `${name} (${absenceWords(fit, member, from, reader)})`;
  });
  const more = missing.length - named.length;
  return [...named, ...(more > 0 ? [`${more} more`] : [])].join(', ');
}
