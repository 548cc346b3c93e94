import type { MessagePort } from 'node:worker_threads';

/** The default export of a worker's module: says that reading begins, and reads. */
export function asWorker<Input, Output>(
  read: (input: Input) => Output | Promise<Output>,
): (task: { input: Input; begun: MessagePort }) => Promise<Output> {
  return async ({ input, begun }) => {
    begun.postMessage(null);
    begun.close();
    return read(input);
  };
}
