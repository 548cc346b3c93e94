/** What is worked out beside the interface: the planner, and files from outside. */
export type { Computed, Explained } from './planner.worker.ts';
export { usePlanner } from './usePlanner.ts';
export { readHolidayFile } from './readFile.ts';
