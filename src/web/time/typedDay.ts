import { dayOrderOf, type DayOrder } from '../../core/time/dayOrder.ts';
import type { DayRead } from '../../core/time/typedDay.ts';

/**
 * Reads a day as people type it; see `readDayAs`. What reads dates is loaded when one is typed.
 * @param order which of two bare numbers is the day; as the browser's language has it unless said
 */
export async function parseDay(
  text: string,
  today: string,
  order: DayOrder = dayOrderOf(navigator.language),
): Promise<DayRead | null> {
  const { readDayAs } = await import('../../core/time/typedDay.ts');
  return readDayAs(text, today, order);
}
