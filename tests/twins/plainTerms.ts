import { Temporal } from 'temporal-polyfill';
import type { BookingTerms } from '../../src/core/booking/terms.ts';

const MINUTE_MS = 60_000;

/** Whether a place's terms refuse a booking, its weeks counted minute by minute; see `keepsTerms`. */
export function plainlyRefused(
  terms: BookingTerms | null | undefined,
  { start, end }: { start: number; end: number },
): boolean {
  if (!terms) return false;
  const minutes: number[] = [];
  for (let at = start; at < end; at += MINUTE_MS) minutes.push(at);
  const clock = Temporal.Instant.fromEpochMilliseconds(start).toZonedDateTimeISO(terms.zone);
  const { shortestMinutes: least, longestMinutes: most, stepMinutes: step } = terms;
  if (least !== null && minutes.length < least) return true;
  if (most !== null && minutes.length > most) return true;
  if (step !== null && minutes.length % step !== 0) return true;
  if (step !== null && (clock.hour * 60 + clock.minute) % step !== 0) return true;
  return terms.weeks.some((week) => {
    const more = minutes.filter((at) => week.start <= at && at < week.end).length;
    return terms.weeklyMinutes !== null && more > 0 && week.had + more > terms.weeklyMinutes;
  });
}
