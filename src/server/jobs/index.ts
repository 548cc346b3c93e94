/** Work that is due at a moment, by definition. */
export type { JobDefinition } from './definition.ts';
export { Jobs } from './jobs.ts';
export { readBacklog } from './queries.ts';
export { oneByOne } from './oneByOne.ts';
