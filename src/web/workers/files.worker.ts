import { expose } from 'comlink';
import { holidaysIn } from '../../core/icalendar/holidays.ts';

/** Files from outside, read where they hold up nobody. */
const files = { holidaysIn };
export type Files = typeof files;
expose(files);
