/**
 * The board of 500 places scrolled from its first to its last, as Chromium's own trace says: how many
 * frames were drawn a second, beside a page of the same height on which nothing is.
 */
import type { Page } from '@playwright/test';
import { openBrowser } from './browser.ts';
import { startLargeServer } from './largeServer.ts';
import { traced } from './trace.ts';

const SECONDS = 4;
/** Pixels of each turn of the wheel, 60 of them a second. */
const TURN = 60;
const ASKED = 60;

/** Scrolls down and up again with the wheel for some seconds. */
async function scroll(page: Page): Promise<void> {
  await page.mouse.move(700, 500);
  const ends = performance.now() + SECONDS * 1000;
  for (let k = 0; performance.now() < ends; k++) {
    await page.mouse.wheel(0, k % 160 < 80 ? TURN : -TURN);
    await new Promise((resolve) => setTimeout(resolve, 1000 / 60));
  }
}

const server = await startLargeServer();
const { browser, page } = await openBrowser(server);
await page.goto(
  `${server.base}/places/board?site=all&kind=room,lab,desk,equipment,vehicle,parking&date=2026-04-06`,
);
await page.locator('[data-lane]').nth(10).waitFor();
const places = await page.locator('h2', { hasText: 'fit' }).count();
await scroll(page);
const board = await traced(page, () => scroll(page));
const seen = await page.locator('[data-lane]').count();
await page.setContent(
  '<main id="view" style="height:100vh;overflow:auto"><div style="height:20000px;background:linear-gradient(#fff,#000)"></div></main>',
);
const bare = await traced(page, () => scroll(page));
await browser.close();
await server.end();
if (places === 0 || seen === 0) throw new Error('there is nothing to scroll');
const perSecond = (one: { drawn: number }) => Number((one.drawn / SECONDS).toFixed(1));
process.stdout.write(
  `${JSON.stringify({
    name: 'the board of 500 places scrolled',
    value: perSecond(board),
    unit: 'frames a second',
    baseline: perSecond(bare),
    ratio: Number((perSecond(board) / perSecond(bare)).toFixed(3)),
    of: `a bare page; ${board.dropped} dropped (${bare.dropped}), longest script ${board.longestScript.toFixed(1)} ms, ${seen} lanes drawn at once; ${ASKED} are asked`,
  })}\n`,
);
