import { appendFileSync } from 'node:fs';

/** Writes down what was measured, for the table of npm run load. */
export function noteLoad(what: string, measured: string, allowed = ''): void {
  const file = process.env.MARMOT_LOAD_REPORT;
  if (file) appendFileSync(file, `${JSON.stringify({ what, measured, allowed })}\n`);
}

/** The time within which so many of a hundred were done. Milliseconds. */
export function percentile(times: readonly number[], of: number): number {
  const sorted = [...times].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor((sorted.length * of) / 100))] ?? 0;
}
