/** What Chromium's own trace says of something done in a page. */
import type { Page } from '@playwright/test';

interface TraceEvent {
  name: string;
  ts: number;
  dur?: number;
  args?: { name?: string };
  tid: number;
  pid: number;
}

export interface Traced {
  /** Frames drawn and dropped while it was done. */
  drawn: number;
  dropped: number;
  /** The longest script on the page's main thread, milliseconds. */
  longestScript: number;
}

/** Does something in a page while its browser traces it. */
export async function traced(page: Page, work: () => Promise<void>): Promise<Traced> {
  const browser = page.context().browser()!;
  await browser.startTracing(page, {
    categories: ['toplevel', 'devtools.timeline', 'disabled-by-default-devtools.timeline.frame'],
  });
  await work();
  const trace = await browser.stopTracing();
  const { traceEvents } = JSON.parse(trace.toString()) as { traceEvents: TraceEvent[] };
  const named = (name: string) => traceEvents.filter((event) => event.name === name).length;
  const main = traceEvents.find(
    (event) => event.name === 'thread_name' && event.args?.name === 'CrRendererMain',
  );
  const scripts = traceEvents
    .filter((event) => event.tid === main?.tid && event.pid === main.pid)
    .filter((event) => event.name === 'FunctionCall' || event.name === 'FireAnimationFrame')
    .map((event) => (event.dur ?? 0) / 1000);
  return {
    drawn: named('DrawFrame'),
    dropped: named('DroppedFrame'),
    longestScript: Math.max(0, ...scripts),
  };
}
