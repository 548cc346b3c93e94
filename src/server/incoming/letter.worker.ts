import { readPart } from '../../core/icalendar/part.ts';
import type { Clock } from '../../core/icalendar/zones.ts';
import { asWorker } from '../reading/worker.ts';
import { readLetter } from './letter.ts';

/** Reads a letter, or a calendar part by itself. */
export default asWorker(
  async (input: { source: Uint8Array } | { calendar: string; clock: Clock }) =>
    'source' in input ? readLetter(input.source) : readPart(input.calendar, input.clock),
);
