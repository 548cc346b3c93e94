/** Reads a day as people type it; see `readDay`. What reads dates is loaded when one is typed. */
export async function parseDay(text: string, today: string): Promise<string | null> {
  const { readDay } = await import('../../core/time/typedDay.ts');
  return readDay(text, today);
}
