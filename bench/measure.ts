/** Median of the milliseconds that `work` takes over `runs`, after some that are not counted. */
export async function medianMs(runs: number, work: () => unknown, warmUp = 3): Promise<number> {
  const times: number[] = [];
  for (let k = -warmUp; k < runs; k++) {
    const began = performance.now();
    await work();
    if (k >= 0) times.push(performance.now() - began);
  }
  times.sort((a, b) => a - b);
  return times[Math.floor(times.length / 2)]!;
}

/** Prints one result as a JSON line; `ratio` says how many times faster than the baseline. */
export function report(name: string, value: number, baseline: number, of: string): void {
  const round = (n: number) => Number(n.toPrecision(4));
  const line = {
    name,
    value: round(value),
    unit: 'ms',
    baseline: round(baseline),
    ratio: round(baseline / value),
    of,
  };
  process.stdout.write(`${JSON.stringify(line)}\n`);
}
