import { parseFreeBusy } from '../../core/icalendar/freebusy.ts';
import { asWorker } from '../reading/worker.ts';

/** Reads what a calendar publishes of somebody's busy times. */
export default asWorker(({ text, zone }: { text: string; zone: string }) =>
  parseFreeBusy(text, zone),
);
