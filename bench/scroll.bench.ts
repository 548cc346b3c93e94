/**
 * The board of 500 places scrolled from its first to its last, as Chromium's own trace says: how many
 * frames were drawn a second, beside a page of the same height on which nothing is.
 */
import type { Page } from '@playwright/test';
import { openBrowser } from './browser.ts';
import { startLargeServer } from './largeServer.ts';
import { traced } from './trace.ts';

const SECONDS = 4;
/** Pixels of each frame: some 2,400 a second, as fast as one can look. */
const STEP = 40;
const ASKED = 60;

/** Scrolls down and up again for some seconds, a step each time the browser asks for a frame. */
const scroll = (page: Page): Promise<void> =>
  page.evaluate(`new Promise((resolve) => {
    const view = document.getElementById('view');
    const ends = performance.now() + ${SECONDS * 1000};
    let way = ${STEP};
    const step = () => {
      const before = view.scrollTop;
      view.scrollTop += way;
      if (view.scrollTop === before) way = -way;
      if (performance.now() < ends) requestAnimationFrame(step);
      else resolve();
    };
    requestAnimationFrame(step);
  })`);

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
// The same height and as many lines of words in sight, laid out once and for all.
const blank = await page.context().newPage();
await blank.goto('about:blank');
await blank.evaluate(`document.body.innerHTML =
  '<main id="view" style="height:780px;overflow:auto">' +
  Array.from({ length: 500 }, (_, k) => '<p style="height:38px;margin:0">Place ' + k + '</p>').join('') +
  '</main>'`);
await blank.bringToFront();
const bare = await traced(blank, () => scroll(blank));
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
