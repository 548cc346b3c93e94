/** Which of two numbers is the day where only their order tells: `12/10`. */
export type DayOrder = 'day-first' | 'month-first';

/** The order in which a locale writes a day and its month. */
export function dayOrderOf(locale: string): DayOrder {
  const parts = new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'numeric' });
  const first = parts.formatToParts(0).find(({ type }) => type === 'day' || type === 'month');
  return first?.type === 'month' ? 'month-first' : 'day-first';
}
