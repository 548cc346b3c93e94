/**
 * Setting a person aside on a line-up of 50, in Chromium on the large organisation: from the key to
 * the frame that shows the new ridge. Beside it, asking the server anew for the same answer.
 */
import type { BusyResponse } from '../src/contract/availability.ts';
import { DAY } from '../src/core/time/interval.ts';
import { openBrowser } from './browser.ts';
import { startLargeServer } from './largeServer.ts';
import { medianMs, report } from './measure.ts';
import { SCALE } from './scaleData.ts';
import { traced } from './trace.ts';

const FROM = '2026-04-06';
const others = Array.from({ length: 49 }, (_, k) => ((k * 37 + 52) % SCALE.people) + 1);

/** Runs in the page: `watch()` promises the milliseconds from the next key to the frame with another ridge. */
const WATCH = `
  window.watch = () => new Promise((resolve) => {
    let pressed = 0;
    document.addEventListener('keydown', (event) => { pressed = event.timeStamp; }, { once: true, capture: true });
    const board = document.querySelector('[aria-label="When they are free"]');
    let latest = 0;
    const observer = new MutationObserver((changes) => {
      if (!pressed || !changes.some((one) => one.attributeName === 'd')) return;
      const mine = ++latest;
      // A message posted in a frame arrives when that frame has been painted.
      requestAnimationFrame(() => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => {
          if (mine !== latest) return;
          observer.disconnect();
          resolve(performance.now() - pressed);
        };
        port2.postMessage(null);
      });
    });
    observer.observe(board, { attributes: true, subtree: true, attributeFilter: ['d'] });
  });
`;

// The large organisation is made up around then.
process.env.MARMOT_NOW = `${FROM}T06:00:00Z`;
const server = await startLargeServer();
const { browser, page } = await openBrowser(server);
try {
  await page.goto(`${server.base}/plan?from=${FROM}&minutes=30&with=${others.join(',')}`);
  await page.locator('[data-testid^=ridge] svg').first().waitFor();
  await page.waitForTimeout(1500);
  await page.evaluate(WATCH);
  const row = page.locator('[data-member]').nth(7);
  await row.focus();
  const times: number[] = [];
  for (let k = 0; k < 20; k++) {
    await page.evaluate('window.watching = watch(), null');
    await page.keyboard.press('Space');
    times.push(await page.evaluate<number>('watching'));
    await page.waitForTimeout(400);
  }
  times.sort((a, b) => a - b);
  const { longestScript } = await traced(page, async () => {
    for (let k = 0; k < 4; k++) {
      await page.keyboard.press('Space');
      await page.waitForTimeout(300);
    }
  });
  const from = Date.parse(`${FROM}T00:00Z`);
  const asked = await medianMs(15, () =>
    server.post<BusyResponse>('/availability/busy', {
      subjects: [1, ...others],
      from,
      to: from + 21 * DAY,
    }),
  );
  report(
    'setting one of 50 aside, from the key to the painted ridge',
    times[Math.floor(times.length / 2)]!,
    asked,
    `asking the server for the busy times alone; slowest of 20 ${times.at(-1)!.toFixed(0)} ms, longest script on the main thread ${longestScript.toFixed(1)} ms`,
  );
} finally {
  await browser.close();
  await server.end();
}
