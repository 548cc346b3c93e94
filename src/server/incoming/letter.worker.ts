import { readPart } from '../../core/icalendar/part.ts';
import { asWorker } from '../reading/worker.ts';
import { readLetter } from './letter.ts';

/** Reads a letter, or a calendar part by itself. */
export default asWorker(async (input: { source: Uint8Array } | { calendar: string }) =>
  'source' in input ? readLetter(input.source) : readPart(input.calendar),
);
