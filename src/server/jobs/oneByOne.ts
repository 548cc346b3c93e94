/**
 * Works on each of some by itself, as a look at the clock does: one that fails is handed to `failed` and holds
 * up no other, and what is left when the job has to end is left for the next look.
 */
export async function oneByOne<One>(
  all: readonly One[],
  work: (one: One) => Promise<void>,
  {
    signal,
    failed,
  }: { signal?: AbortSignal | undefined; failed: (error: unknown, one: One) => void },
): Promise<void> {
  for (const one of all) {
    if (signal?.aborted) return;
    try {
      await work(one);
    } catch (error) {
      failed(error, one);
    }
  }
}
