import { readDays, readParts, readWrittenDays } from './days.ts';
import { readLengths } from './lengths.ts';
import { readRepeats } from './repeats.ts';
import { readAhead, readRanges, readTimes } from './times.ts';
import type { Reading } from './words.ts';

/** When, how long and how often, as sentences say it; what is surest first. */
export function readWhen(reading: Reading): void {
  readRepeats(reading);
  readAhead(reading);
  readLengths(reading);
  readWrittenDays(reading);
  readDays(reading);
  readRanges(reading);
  readTimes(reading);
  readParts(reading);
}
