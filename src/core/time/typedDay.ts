import { GB } from 'chrono-node/en';
import { isDate } from './wall.ts';

const two = (text: string | number): string => String(text).padStart(2, '0');

/**
 * Reads a day as people type it: `2027-02-10`, `10.2.`, `10.2.2027`, `3 March`, `next Friday`,
 * `in 2 weeks`, `tomorrow`.
 * @param today `YYYY-MM-DD`, from which what is left out is counted
 * @param whole whether all of the text must be the day, and name no time
 * @returns `YYYY-MM-DD`, or null when it is not a day
 */
export function readDay(text: string, today: string, whole = false): string | null {
  const typed = text.trim();
  if (isDate(typed)) return typed;
  const dotted = /^(\d{1,2})\.\s*(\d{1,2})\.?\s*(\d{4})?$/.exec(typed);
  if (dotted) {
    const [, day, month, year] = dotted;
    const on = (y: string | number) => `${y}-${two(month!)}-${two(day!)}`;
    const thisYear = on(today.slice(0, 4));
    const date = year ? on(year) : thisYear >= today ? thisYear : on(Number(today.slice(0, 4)) + 1);
    return isDate(date) ? date : null;
  }
  const reference = { instant: new Date(`${today}T12:00:00Z`), timezone: 0 };
  // "last Friday" and "2 days ago" lie in the past; all else is still to come.
  const isPast = /^last\b|\bago$|^yesterday$/i.test(typed);
  const [found] = GB.parse(typed, reference, { forwardDate: !isPast });
  if (!found) return null;
  const { start } = found;
  if (
    whole
      ? found.text.length < typed.length || start.isCertain('hour')
      : found.text.length < typed.length / 2
  )
    return null;
  const date = `${start.get('year')}-${two(start.get('month')!)}-${two(start.get('day')!)}`;
  return isDate(date) ? date : null;
}
