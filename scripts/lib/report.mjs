/** Says what a long command is doing, one line a step, and turns a failure into advice. */

export class Advice extends Error {
  /**
   * @param {string} what what went wrong, in a sentence
   * @param {string} [remedy] what the reader can do about it
   */
  constructor(what, remedy) {
    super(remedy ? `${what}\n  What to do: ${remedy}` : what);
    this.name = 'Advice';
  }
}

/**
 * Runs one named step and prints how long it took.
 * @template T
 * @param {string} name
 * @param {(say: (detail: string) => void) => Promise<T> | T} work
 * @returns {Promise<T>}
 */
export async function step(name, work) {
  const began = Date.now();
  let detail = '';
  process.stdout.write(`- ${name} …\n`);
  const result = await work((text) => {
    detail = text;
  });
  const seconds = ((Date.now() - began) / 1000).toFixed(1);
  process.stdout.write(`  ${detail || 'done'} (${seconds} s)\n`);
  return result;
}

/** Prints a failure and ends the process with status 1. */
export function giveUp(error) {
  const text = error instanceof Advice ? error.message : (error?.stack ?? String(error));
  process.stderr.write(`\nMarmot could not go on: ${text}\n`);
  process.exit(1);
}
