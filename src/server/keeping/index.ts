/** How long what is kept: every table has an owner and an end. */
export { FORGET_JOB, forgetJob } from './forgetting.ts';
export { housekeepingJob } from './housekeeping.ts';
export { writeKeepingSetting } from './queries.ts';
export { readKeeping } from './settings.ts';
export { readKeepDays, type KeepDays } from './tables.ts';
