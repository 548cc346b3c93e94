/** Whether the long form runs, as npm run load asks for; npm test runs a short one. */
export const isLong = process.env.MARMOT_LOAD === 'long';

const FEWEST = 8;

/**
 * How often something is tried, or how much of it there is: all of it in the long form, a fifth of it in npm
 * test. What is drawn by chance is drawn anew each time, so that many short runs try what a long one does.
 */
export const often = (all: number): number =>
  isLong ? all : Math.max(Math.ceil(all / 5), Math.min(all, FEWEST));
