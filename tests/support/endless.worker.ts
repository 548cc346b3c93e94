import { asWorker } from '../../src/server/reading/worker.ts';

/** Reads for ever, or fills its memory, as no reader should. */
export default asWorker((what: 'time' | 'memory' | 'nothing') => {
  const kept: number[][] = [];
  while (what !== 'nothing')
    if (what === 'memory') kept.push(Array<number>(100_000).fill(kept.length));
  return 'read';
});
