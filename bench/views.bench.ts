/**
 * Every view on the large organisation beside the same view on the demonstration: until it stands
 * still, how much it asks for, and how many elements it draws.
 */
import type { Page } from '@playwright/test';
import pg from 'pg';
import { pino } from 'pino';
import { loadDemonstration } from '../demo/data/index.ts';
import { partnerCalendars } from '../demo/stand-ins/partnerCalendars/calendars.ts';
import { readConfig } from '../src/server/config.ts';
import { migrate } from '../src/server/db/migrate.ts';
import { webCalendars } from '../src/server/published/index.ts';
import { createPlatform } from '../src/server/server.ts';
import { TEST_NOW } from '../tests/support/cluster.ts';
import { openBrowser } from './browser.ts';
import { startLargeServer, startServerOn, type BenchServer } from './largeServer.ts';
import { report } from './measure.ts';

const VIEWS = ['/', '/calendar', '/plan', '/replies', '/places', '/people'];
const RUNS = 5;
const DATABASE = 'marmot_views';

async function demonstration(): Promise<BenchServer> {
  const adminUrl = process.env.MARMOT_DATABASE_URL!.replace(/\/[^/]+$/, '/postgres');
  const url = adminUrl.replace(/\/postgres$/, `/${DATABASE}`);
  const admin = new pg.Client({ connectionString: adminUrl });
  await admin.connect();
  await admin.query(`drop database if exists ${DATABASE} with (force)`);
  await admin.query(`create database ${DATABASE}`);
  await admin.end();
  await migrate(url);
  const env = { MARMOT_DATABASE_URL: url, MARMOT_NOW: TEST_NOW };
  const config = readConfig(env);
  const calendars = partnerCalendars(config.clock, webCalendars);
  const platform = createPlatform(config, pino({ level: 'error' }), calendars);
  await loadDemonstration(platform);
  await platform.pool.end();
  return startServerOn(env, { email: 'ines.aldabe@ternrock.example', password: 'tern-rock' });
}

/** Milliseconds, kilobytes and elements of a view that is opened anew. */
async function settles(page: Page, address: string) {
  let bytes = 0;
  const count = (response: { url(): string; body(): Promise<Buffer> }) => {
    if (response.url().includes('/api/') && !response.url().includes('/api/live'))
      void response.body().then(
        (body) => (bytes += body.length),
        () => undefined,
      );
  };
  page.on('response', count);
  const began = performance.now();
  await page.goto(address);
  // Nothing more is drawn for a while: it stands still.
  const stoodAt = await page.evaluate<number>(`new Promise((resolve) => {
    let last = performance.now();
    new MutationObserver(() => { last = performance.now(); })
      .observe(document.body, { childList: true, subtree: true });
    const look = () => performance.now() - last > 400 ? resolve(last) : setTimeout(look, 50);
    look();
  })`);
  const origin = await page.evaluate<number>('performance.timeOrigin');
  const milliseconds = origin + stoodAt - (performance.timeOrigin + began);
  const elements = await page.locator('*').count();
  page.off('response', count);
  return { milliseconds, kilobytes: bytes / 1024, elements };
}

async function medians(server: BenchServer) {
  const { browser, page } = await openBrowser(server);
  try {
    const found = new Map<string, Awaited<ReturnType<typeof settles>>>();
    for (const view of VIEWS) {
      const runs = [];
      for (let k = 0; k <= RUNS; k++) {
        const one = await settles(page, `${server.base}${view}`);
        if (k > 0) runs.push(one);
      }
      runs.sort((a, b) => a.milliseconds - b.milliseconds);
      found.set(view, runs[Math.floor(RUNS / 2)]!);
    }
    return found;
  } finally {
    await browser.close();
  }
}

/**
 * Milliseconds from the click on an event of the calendar to the frame in which its panel says what it
 * is, and those of two frames of the same page.
 */
async function panelOpens(server: BenchServer): Promise<{ panel: number; frames: number }> {
  const { browser, page } = await openBrowser(server);
  try {
    await page.goto(`${server.base}/calendar`);
    await page.locator('[data-item]').first().waitFor();
    const times: number[] = [];
    for (let k = 0; k <= RUNS; k++) {
      const took = await page.evaluate<number>(`new Promise((resolve) => {
        const items = [...document.querySelectorAll('[data-item^="m"]')];
        const began = performance.now();
        items[${k} % items.length].click();
        const look = () => {
          // Its title and its time; what else there is to say follows.
          const says = document.querySelector('[role=dialog] p')?.textContent ?? '';
          if (!/\\d/.test(says))
            return requestAnimationFrame(look);
          requestAnimationFrame(() => resolve(performance.now() - began));
        };
        look();
      })`);
      if (k > 0) times.push(took);
      await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
      await page.getByRole('dialog').waitFor({ state: 'detached' });
    }
    const frames = await page.evaluate<number>(`new Promise((resolve) => {
      const began = performance.now();
      requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now() - began)));
    })`);
    return { panel: times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!, frames };
  } finally {
    await browser.close();
  }
}

/** What every view takes on a server, which then ends. */
async function measured(server: BenchServer) {
  try {
    return await medians(server);
  } finally {
    await server.end();
  }
}

const small = await demonstration();
const { panel, frames } = await panelOpens(small);
report(
  'opening the panel of an event on the demonstration',
  panel,
  frames,
  'two frames of the same page; 100 ms are allowed',
);
const onDemonstration = await measured(small);
const onLarge = await measured(await startLargeServer());
for (const view of VIEWS) {
  const [much, little] = [onLarge.get(view)!, onDemonstration.get(view)!];
  report(
    `${view} on the large organisation, until it stands still`,
    much.milliseconds,
    little.milliseconds,
    `the same on the demonstration; ${Math.round(much.kilobytes)} kB asked for against ${Math.round(little.kilobytes)}, ${much.elements} elements against ${little.elements}`,
  );
}
