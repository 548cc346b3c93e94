import { setImmediate } from 'node:timers/promises';
import { LONGEST_HELD_MS } from './limits.ts';

/**
 * Lets others be answered in the middle of long work: to be awaited in its innermost loop, where it costs a
 * look at the clock unless the work has gone on for long.
 */
export function breather(): () => Promise<void> | undefined {
  let since = performance.now();
  return () => {
    if (performance.now() - since < LONGEST_HELD_MS) return undefined;
    return setImmediate(undefined).then(() => {
      since = performance.now();
    });
  };
}
