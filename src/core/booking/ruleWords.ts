import { MINUTE, type Interval } from '../time/interval.ts';
import { formatDay, formatLength, formatMinute, type ClockStyle } from '../time/format.ts';
import type { Shift, WorkingHours } from '../time/workingHours.ts';
import type { Buffers } from './booking.ts';
import { counted } from '../counted.ts';
import type { Assignment, BrokenRule, PlaceRules, Price } from './rules.ts';
import type { BrokenTerm } from './terms.ts';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

const length = (minutes: number): string => formatLength(minutes * MINUTE);
const hoursWords = (shifts: readonly Shift[], clock: ClockStyle): string =>
  shifts
    .map(({ start, end }) =>
      start === 0 && end === 1440
        ? 'all day'
        : `${formatMinute(start, clock)}–${end === 1440 ? '24:00' : formatMinute(end % 1440, clock)}`,
    )
    .join(' and ');

/** Opening hours by weekday, days alike together: `Mon–Fri 08:00–18:00, Sat 09:00–12:00`. */
export function openWords(open: WorkingHours, clock: ClockStyle): string {
  const parts: { first: number; last: number; hours: string }[] = [];
  open.forEach((shifts, day) => {
    const hours = hoursWords(shifts, clock);
    const last = parts.at(-1);
    if (last?.hours === hours && last.last === day - 1) last.last = day;
    else parts.push({ first: day, last: day, hours });
  });
  const named = parts
    .filter((one) => one.hours !== '')
    .map(({ first, last, hours }) =>
      first === last ? `${DAYS[first]} ${hours}` : `${DAYS[first]}–${DAYS[last]} ${hours}`,
    );
  return named.join(', ') || 'never';
}

/**
 * What bookings of a place are bound by, a clause for each rule, such as `open Mon–Fri 08:00–18:00`.
 * @param teamNames by the ids in the rules
 */
export function rulesInWords(
  rules: PlaceRules,
  { prepareMinutes, clearMinutes }: Buffers,
  { clock, teamNames }: { clock: ClockStyle; teamNames: ReadonlyMap<number, string> },
): string[] {
  const { shortestMinutes: least, longestMinutes: most, stepMinutes: step } = rules;
  const lasts =
    least !== null && most !== null
      ? `for ${length(least)} to ${length(most)}`
      : least !== null
        ? `for ${length(least)} at least`
        : most !== null
          ? `for ${length(most)} at most`
          : null;
  const kept = [
    prepareMinutes > 0 && `${prepareMinutes} min before`,
    clearMinutes > 0 && `${clearMinutes} min after`,
  ].filter(Boolean);
  const clauses: (string | null | false)[] = [
    rules.open && `open ${openWords(rules.open, clock)}`,
    lasts,
    step !== null && `in steps of ${length(step)}`,
    rules.noticeMinutes !== null && `booked ${length(rules.noticeMinutes)} ahead at least`,
    rules.horizonDays !== null && `booked ${rules.horizonDays} days ahead at most`,
    rules.teams && `for ${teamsWords(rules.teams, teamNames)} alone`,
    rules.weeklyMinutes !== null && `${length(rules.weeklyMinutes)} a week for each at most`,
    kept.length > 0 && `kept free ${kept.join(' and ')}`,
    rules.approval && 'a steward agrees first',
    rules.graceMinutes !== null &&
      `given to others if nobody checks in within ${length(rules.graceMinutes)}`,
    rules.hourlyPrice && `${priceWords(rules.hourlyPrice)} an hour`,
    rules.assigned ? assignedWords(rules.assigned) : null,
  ];
  return clauses.filter((one) => typeof one === 'string');
}

/** As many free days as are named; of more only so many are said. */
const MOST_DAYS_NAMED = 3;

function assignedWords({ owner, freeDays }: Assignment): string {
  const days = freeDays.slice(0, MOST_DAYS_NAMED).map(dayWords);
  const more = freeDays.length - days.length;
  if (days.length === 0) return `${owner}’s`;
  return `${owner}’s, free for others ${days.join(', ')}${more > 0 ? ` and ${counted(more, 'more day')}` : ''}`;
}

const dayWords = (date: string) => formatDay(Date.parse(`${date}T12:00Z`), 'UTC');

/** An amount in words: `NOK 450`, `EUR 12.50`. */
export function priceWords({ hundredths, currency }: Price): string {
  const whole = hundredths % 100 === 0;
  return `${currency} ${whole ? hundredths / 100 : (hundredths / 100).toFixed(2)}`;
}

/**
 * What a booking costs by its own time, each begun minute counted; null where nothing is charged.
 * @param span the booking's own time, half-open
 */
export function priceOf(
  { hourlyPrice }: Pick<PlaceRules, 'hourlyPrice'>,
  span: Interval,
): Price | null {
  if (!hourlyPrice) return null;
  const minutes = Math.ceil((span.end - span.start) / MINUTE);
  return { ...hourlyPrice, hundredths: Math.round((hourlyPrice.hundredths * minutes) / 60) };
}

const teamsWords = (teams: readonly number[], names: ReadonlyMap<number, string>): string =>
  teams.map((id) => names.get(id) ?? 'a team that is gone').join(', ') || 'nobody';

/**
 * What a booking would break, in a sentence that stands behind the place's name: `is open Thu
 * 08:00–18:00`.
 * @param zone the place's clock
 */
export function brokenInWords(
  broken: BrokenRule,
  {
    clock,
    rules,
    teamNames,
  }: { clock: ClockStyle; rules: PlaceRules; teamNames: ReadonlyMap<number, string> },
): string {
  switch (broken.rule) {
    case 'closed': {
      const day = formatDay(Date.parse(`${broken.date}T12:00Z`), 'UTC');
      return broken.hours.length > 0
        ? `is open ${hoursWords(broken.hours, clock)} on ${day}`
        : `is closed on ${day}`;
    }
    case 'too-late':
      return `is booked ${length(broken.notice)} ahead at least`;
    case 'too-early':
      return `is booked ${broken.days} days ahead at most, now through ${formatDay(Date.parse(`${broken.last}T12:00Z`), 'UTC')} ${broken.last.slice(0, 4)}`;
    case 'not-for-you':
      return `is for ${teamsWords(rules.teams ?? [], teamNames)} alone`;
    case 'somebodys':
      return `is ${broken.owner}’s, who has not given it free on ${dayWords(broken.date)}`;
    default:
      return termInWords(broken);
  }
}

/** The same of one that asks something of a booking's length or beginning: `is booked for 2 h at most`. */
export function termInWords(broken: BrokenTerm): string {
  switch (broken.rule) {
    case 'too-short':
      return `is booked for ${length(broken.least)} at least`;
    case 'too-long':
      return `is booked for ${length(broken.most)} at most`;
    case 'off-step':
      return `is booked in steps of ${length(broken.step)}, counted from midnight`;
    case 'too-much':
      return broken.had > 0
        ? `is had ${length(broken.most)} a week at most by each: ${broken.most > broken.had ? length(broken.most - broken.had) : 'nothing'} left that week`
        : `is had ${length(broken.most)} a week at most by each`;
  }
}
