import { wrap } from 'comlink';
import type { HolidaysRead } from '../../core/icalendar/holidays.ts';
import type { Files } from './files.worker.ts';

/** Longer than any file of days off takes; what takes longer is made to. */
const LONGEST_MS = 5_000;

/**
 * The days off in a calendar file, read in a worker of its own that ends with it.
 * @throws Error with a sentence where it is no calendar, or takes too long
 */
export async function readHolidayFile(
  text: string,
  span: { first: string; end: string },
): Promise<HolidaysRead> {
  const worker = new Worker(new URL('./files.worker.ts', import.meta.url), { type: 'module' });
  let timer: ReturnType<typeof setTimeout> | undefined;
  try {
    return await Promise.race([
      wrap<Files>(worker).holidaysIn(text, span),
      new Promise<never>((_, reject) => {
        timer = setTimeout(() => reject(new Error('The file takes too long to read.')), LONGEST_MS);
      }),
    ]);
  } finally {
    clearTimeout(timer);
    worker.terminate();
  }
}
