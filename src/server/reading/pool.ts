import { createRequire } from 'node:module';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { MessageChannel, type Transferable } from 'node:worker_threads';
import Piscina from 'piscina';
import { Refusal } from '../../core/refusal.ts';
import { ConcurrencyLimiter } from '../http/index.ts';
import { IDLE_WORKER_MS, LONGEST_READ_MS, LONGEST_START_MS, MOST_MEMORY_MB } from './limits.ts';

/** Of one kind one is read at a time, so that slow mail holds up no file of somebody here. */
const LINE = { atOnce: 1, mostWaiting: 100, longestWaitMs: 60_000 };

let pool: Piscina | undefined;

/** Workers run what tests and the server run: TypeScript, by the same loader. */
const openPool = () =>
  new Piscina({
    minThreads: 0,
    maxThreads: Math.max(2, Math.min(4, availableParallelism())),
    idleTimeout: IDLE_WORKER_MS,
    execArgv: ['--import', createRequire(import.meta.url).resolve('tsx')],
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
  });

/**
 * A function that reads something from outside in a worker: the thread that answers everybody never holds
 * its content for longer than a copy takes, and reading ends with a deadline and within a bound of memory.
 * @param file address of the module whose default export is made by `asWorker`
 * @param what what is read, as the refusal names it: `The letter`
 */
export function reader<Input, Output>(
  file: URL,
  what: string,
): (input: Input, transfer?: readonly Transferable[]) => Promise<Output> {
  const line = new ConcurrencyLimiter(LINE);
  const filename = fileURLToPath(file);
  return (input, transfer = []) =>
    line.run(async () => {
      pool ??= openPool();
      const ended = new AbortController();
      const { port1, port2 } = new MessageChannel();
      let timer = setTimeout(() => ended.abort(), LONGEST_START_MS);
      port1.once('message', () => {
        clearTimeout(timer);
        timer = setTimeout(() => ended.abort(), LONGEST_READ_MS);
      });
      try {
        return (await pool.run(
          { input, begun: port2 },
          { filename, signal: ended.signal, transferList: [port2, ...transfer] },
        )) as Output;
      } catch (error) {
        if (error instanceof Error && isBound(error))
          throw new Refusal('too-hard-to-read', `${what} takes too much to be read.`);
        throw error;
      } finally {
        clearTimeout(timer);
        port1.close();
      }
    });
}

/** Whether a worker was ended by its deadline or for its memory. */
const isBound = (error: Error & { code?: string }): boolean =>
  error.name === 'AbortError' || error.code === 'ERR_WORKER_OUT_OF_MEMORY';
