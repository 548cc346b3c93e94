/**
 * The calendar's grids in Chromium: from data to paint, and frames while an event is dragged, with
 * more in them than anybody has. The browser's own trace says how many frames were drawn.
 */
import type { Page } from '@playwright/test';
import { Random } from '../demo/data/random.ts';
import type { CalendarResponse, Layer } from '../src/contract/calendar.ts';
import { LAYER_COLOURS } from '../src/contract/calendar.ts';
import { DAY, HOUR } from '../src/core/time/interval.ts';
import { openBrowser } from './browser.ts';
import { startLargeServer } from './largeServer.ts';
import { report } from './measure.ts';
import { traced } from './trace.ts';

const LAYERS = 20;
const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

const layers: Layer[] = Array.from({ length: LAYERS }, (_, k) => ({
  id: k + 1,
  kind: 'person',
  name: `Person ${k + 2}`,
  colour: LAYER_COLOURS[k % LAYER_COLOURS.length]!,
  shown: true,
  subjectIds: [k + 2],
}));

/** As many occurrences on 20 layers as asked for, spread over a window, and some of mine. */
function crowd(from: number, to: number, count: number): CalendarResponse {
  const random = new Random(`grid ${from}`);
  const days = Math.round((to - from) / DAY);
  const span = () => {
    const start = from + random.below(days) * DAY + (7 + random.below(40) / 4) * HOUR;
    return { start, end: start + (1 + random.below(6)) * (HOUR / 4) };
  };
  const common = { place: '', allDay: false, recurrenceId: null, draft: false };
  return {
    items: Array.from({ length: Math.max(12, days) }, (_, k) => ({
      ...common,
      ...span(),
      eventId: `00000000-0000-4000-8000-${String(k).padStart(12, '0')}`,
      occurrenceId: k + 1,
      version: 1,
      title: `Mine ${k}`,
      zone: 'Europe/Oslo',
      endZone: null,
      occupancy: 'busy' as const,
      standing: 'organizer' as const,
      organizer: 'Person 1',
      attendeeCount: 1,
      resources: [],
      categoryId: null,
    })),
    subjects: layers.map((layer, n) => ({
      id: layer.subjectIds[0]!,
      knowledge: 'known' as const,
      reason: null,
      items: Array.from({ length: Math.ceil(count / LAYERS) }, (_, k) => ({
        ...common,
        ...span(),
        eventId: `00000000-0000-4000-9000-${String(n * 1000 + k).padStart(12, '0')}`,
        occurrenceId: 10_000 + n * 1000 + k,
        title: `Meeting ${n}-${k}`,
        occupancy: 'busy' as const,
      })),
    })),
  };
}

/** Runs in the page: `watch()` promises the milliseconds from the next answer to the frame that shows it. */
const WATCH = `
  window.watch = () => new Promise((resolve) => {
    let arrived = 0;
    const plain = Response.prototype.json;
    Response.prototype.json = async function () {
      const body = await plain.call(this);
      if (this.url.includes('/api/calendar?')) arrived = performance.now();
      return body;
    };
    const observer = new MutationObserver(() => {
      if (!arrived) return;
      observer.disconnect();
      Response.prototype.json = plain;
      // A message posted in a frame arrives when that frame has been painted.
      requestAnimationFrame(() => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => resolve(performance.now() - arrived);
        port2.postMessage(null);
      });
    });
    observer.observe(document.querySelector('main'), { childList: true, subtree: true });
  });
`;

async function paints(page: Page, steps: number): Promise<number[]> {
  await page.evaluate(WATCH);
  const times: number[] = [];
  for (let k = 0; k < steps; k++) {
    const painted = page.evaluate<number>('watch()');
    await page.getByRole('button', { name: 'Later', exact: true }).click();
    times.push(await painted);
    await page.waitForTimeout(150);
  }
  return times;
}

/** Milliseconds in which as many plain blocks are written into an empty page and painted. */
const plainBlocks = (page: Page, count: number) =>
  page.evaluate(async (blocks) => {
    const host = document.createElement('div');
    document.body.append(host);
    const began = performance.now();
    host.innerHTML = Array.from(
      { length: blocks },
      (_, k) => `<button style="position:absolute;top:${k}px"><span>Meeting ${k}</span></button>`,
    ).join('');
    await new Promise((resolve) =>
      requestAnimationFrame(() => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = resolve;
        port2.postMessage(null);
      }),
    );
    const took = performance.now() - began;
    host.remove();
    return took;
  }, count);

/** Drags something of mine around for two seconds and reads from the trace what was drawn. */
async function dragged(page: Page, selector: string) {
  await page.bringToFront();
  const item = page.locator(selector).first();
  await item.scrollIntoViewIfNeeded();
  const box = (await item.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  let seconds = 0;
  const { drawn, dropped, longestScript } = await traced(page, async () => {
    await page.mouse.move(x, y);
    await page.mouse.down();
    // Told from within the page: driving the mouse from outside is slower than the frames.
    const began = Date.now();
    await page.evaluate(`new Promise((resolve) => {
      const began = performance.now();
      const move = (now) => {
        const k = now - began;
        if (k > 2000) return resolve();
        window.dispatchEvent(new PointerEvent('pointermove', {
          pointerId: 1, pointerType: 'mouse', buttons: 1,
          clientX: ${x} + 150 + 140 * Math.sin(k / 400), clientY: ${y} + 60 + 55 * Math.cos(k / 300),
        }));
        requestAnimationFrame(move);
      };
      requestAnimationFrame(move);
    })`);
    seconds = (Date.now() - began) / 1000;
    if (!(await page.locator('[data-statement]').isVisible())) throw new Error('nothing was held');
    await page.keyboard.press('Escape');
    await page.mouse.up();
  });
  return { fps: drawn / seconds, dropped, longest: longestScript };
}

const server = await startLargeServer();
const { browser, page } = await openBrowser(server);
try {
  let count = 0;
  await page.route(/\/api\/calendar\/layers$/, (route) => route.fulfill({ json: { layers } }));
  await page.route(/\/api\/calendar\?/, (route) => {
    const query = new URL(route.request().url()).searchParams;
    const [from, to] = [Number(query.get('from')), Number(query.get('to'))];
    return route.fulfill({ json: crowd(from, to, count) });
  });
  for (const [view, occurrences] of [
    ['week', 500],
    ['month', 1500],
  ] as const) {
    count = occurrences;
    await page.goto(`${server.base}/calendar?view=${view}&date=2026-06-08`);
    await page.locator('[data-item]').first().waitFor();
    const shown = median(await paints(page, 15));
    // In a page of its own: a page is never the same again after it.
    const bare = await page.context().newPage();
    await bare.goto(`${server.base}/api/health`);
    const plain = median([
      await plainBlocks(bare, occurrences),
      await plainBlocks(bare, occurrences),
      await plainBlocks(bare, occurrences),
    ]);
    await bare.close();
    report(
      `${view} of ${occurrences} occurrences on ${LAYERS} layers, from data to paint`,
      shown,
      plain,
      `${occurrences} plain blocks written into a page`,
    );
    const { fps, dropped, longest } = await dragged(page, '[data-item^="m"]');
    report(
      `${view} of ${occurrences} occurrences: a frame while dragging`,
      1000 / fps,
      1000 / 60,
      `60 frames a second; ${fps.toFixed(1)} drawn, ${dropped} dropped, longest script ${longest.toFixed(1)} ms`,
    );
  }
} finally {
  await browser.close();
  await server.end();
}
