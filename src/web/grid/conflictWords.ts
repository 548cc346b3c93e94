import type { SubjectBusy } from '../../contract/availability.ts';
import { termInWords } from '../../core/booking/ruleWords.ts';
import { brokenTerms } from '../../core/booking/terms.ts';
import { overlaps, type Interval } from '../../core/time/interval.ts';

/** What is known of the time of somebody or something that takes part. */
export type KnownTime = Pick<SubjectBusy, 'name' | 'busy' | 'changeovers' | 'terms'>;

const MOST_NAMED = 2;

/**
 * What a time runs into, in sentences; empty where nothing.
 * @param own names of what is mine then
 * @param others names of whoever else is shown as taken then
 * @param known the people and places of what would be then, as if it were not there yet
 */
export function conflictWords(
  span: Interval,
  own: readonly string[],
  others: readonly string[],
  known: readonly KnownTime[],
): string {
  const within = (spans: readonly (readonly [number, number, ...unknown[]])[]) =>
    spans.some(([start, end]) => overlaps({ start, end }, span));
  const taken: string[] = [];
  const barred: string[] = [];
  const refusals: string[] = [];
  for (const { name, busy, changeovers, terms } of known) {
    const [broken] = terms ? brokenTerms(terms, span) : [];
    if (within(busy.filter((one) => one[2] !== 'barred')) || within(changeovers)) taken.push(name);
    else if (within(busy)) barred.push(name);
    else if (broken) refusals.push(`${name} ${termInWords(broken)}.`);
  }
  const all = [...taken, ...others];
  return [
    own.length > 0 && `Overlaps ${named(own)}.`,
    all.length > 0 && `${named(all)} ${all.length === 1 ? 'is' : 'are'} taken.`,
    barred.length > 0 && `${named(barred)} cannot be booked then.`,
    ...refusals.slice(0, MOST_NAMED),
  ]
    .filter(Boolean)
    .join(' ');
}

const named = (names: readonly string[]): string =>
  names.length <= MOST_NAMED
    ? names.join(' and ')
    : `${names.slice(0, MOST_NAMED).join(', ')} and ${names.length - MOST_NAMED} more`;
