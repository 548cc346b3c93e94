/** The planner in a worker of its own. */
export type { Computed, Explained } from './planner.worker.ts';
export { usePlanner } from './usePlanner.ts';
