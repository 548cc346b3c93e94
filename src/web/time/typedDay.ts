import { dayOrderOf } from '../../core/time/dayOrder.ts';
import type { DayRead } from '../../core/time/typedDay.ts';

/** Reads a day as people type it; see `readDayAs`. What reads dates is loaded when one is typed. */
export async function parseDay(text: string, today: string): Promise<DayRead | null> {
  const { readDayAs } = await import('../../core/time/typedDay.ts');
  return readDayAs(text, today, dayOrderOf(navigator.language));
}
