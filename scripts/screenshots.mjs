/**
 * Takes the pictures of docs/screenshots from a running Marmot with the demonstration:
 *   MARMOT_NOW=2026-11-24T08:12:00Z npm start -- --fresh-demo
 *   node scripts/screenshots.mjs [address] [folder]
 */
import { chromium } from '@playwright/test';
import path from 'node:path';
import { findChromium } from './lib/programs.mjs';
import { projectDir } from './lib/run.mjs';

const address = process.argv[2] ?? 'http://localhost:4270';
const folder = path.resolve(process.argv[3] ?? path.join(projectDir, 'docs/screenshots'));
const DESK = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };

const browser = await chromium.launch({
  executablePath: findChromium(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-quic'],
});

async function signIn(page, name = 'Ines Aldabe') {
  await page.goto(address);
  await page.getByRole('button', { name: new RegExp(name) }).click();
  await page.getByRole('heading', { name: /2026/ }).waitFor();
}

/** Adds people and places to the line-up by parts of their names, as a user would. */
async function fillLineUp(page, names) {
  for (const name of names) {
    await page.getByPlaceholder('Add a person, team or place').fill(name);
    await page.locator('[cmdk-item]', { hasText: name }).first().click();
  }
}

async function plan(page) {
  await page.goto(`${address}/plan?minutes=30&stretch=60`);
  await page.getByLabel('Title of the meeting').fill('Array calibration review');
  // On a phone the line-up opens from below.
  const folded = page.getByRole('button', { name: /^1 person/ });
  const isFolded = await folded.isVisible();
  if (isFolded) await folded.click();
  await fillLineUp(page, ['Tomas', 'Mika', 'Wanjiru', 'Priya', 'Robine', 'Gannet']);
  await page.getByRole('button', { name: 'Make Robine Thys optional' }).click();
  if (isFolded) await page.keyboard.press('Escape');
  await page.getByRole('region', { name: 'Openings' }).getByRole('button').first().click();
}

async function sentence(page) {
  await page.goto(address);
  await page.getByRole('heading', { name: /2026/ }).waitFor();
  await page.keyboard.press('/');
  await page.keyboard.type('kelp review with Leila and Menon Thu 14:00 45m in Gannet');
  await page.getByRole('list', { name: 'Understood' }).waitFor();
}

/** A meeting in the making, with three people and a room, on a day on which not all of them can. */
async function newEvent(page) {
  await page.goto(`${address}/events/new`);
  await page.getByLabel('Title', { exact: true }).fill('Buoy paint');
  await page.getByLabel('Day', { exact: true }).fill('2026-11-26');
  await page.getByLabel('Start', { exact: true }).fill('14');
  await page.getByLabel('End', { exact: true }).fill('14.45');
  await fillLineUp(page, ['Tomas', 'Mika', 'Wanjiru', 'Gannet']);
  await page.waitForTimeout(900);
}

const VIEWS = {
  today: (page) => page.goto(address),
  calendar: (page) => page.goto(`${address}/calendar`),
  plan,
  sentence,
  'new-event': newEvent,
  invitation: async (page) => {
    await page.goto(address);
    await page.getByRole('link', { name: 'Array deployment plan' }).first().click();
    await page.waitForURL('**/invitations/*');
  },
  replies: async (page) => {
    await page.goto(`${address}/replies`);
    await page.getByRole('link', { name: /^Nilgiri sensor exchange/ }).click();
    await page.getByRole('article', { name: 'Nilgiri sensor exchange' }).waitFor();
  },
  guest: async (page) => {
    const { entries } = await (await page.request.get(`${address}/api/mailroom?q=jon.skau`)).json();
    const letter = await page.request.get(`${address}/api/mailroom/${entries[0].id}/letter`);
    await page.goto(`${address}${/\/guest\/[^"]+/.exec(await letter.text())[0]}`);
    await page.getByRole('radio', { name: 'Yes' }).click();
  },
  places: (page) => page.goto(`${address}/places`),
  find: (page) => page.goto(`${address}/places/find?date=2026-11-26&minutes=90&seats=6`),
  board: (page) => page.goto(`${address}/places/board`),
  ledger: (page) =>
    page.goto(`${address}/places/ledger?whose=all&when=coming&sort=start&kind=room`),
  mailroom: async (page) => {
    await page.goto(`${address}/mailroom`);
    await page
      .getByRole('link', { name: /jon.skau/ })
      .first()
      .click();
  },
  // The last one, as it is somebody else's.
  administration: async (page) => {
    await page.request.delete(`${address}/api/session`);
    await signIn(page, 'Aksel Nordvik');
    await page.goto(`${address}/administration`);
    await page.getByRole('button', { name: 'Amara Nwosu', exact: true }).click();
  },
};
const PHONE_VIEWS = ['today', 'calendar', 'plan', 'invitation', 'places'];
const only = process.argv[4]?.split(',');

for (const [suffix, viewport, names] of [
  ['', DESK, Object.keys(VIEWS)],
  ['-phone', PHONE, PHONE_VIEWS],
]) {
  const page = await browser.newPage({
    viewport,
    reducedMotion: 'reduce',
    locale: 'en-GB',
    timezoneId: 'Europe/Oslo',
  });
  page.on('console', (message) => message.type() === 'error' && console.log(`  ${message.text()}`));
  page.on('pageerror', (error) => console.log(`  ${error.message}`));
  await signIn(page);
  for (const name of names) {
    if (only && !only.includes(name + suffix)) continue;
    await VIEWS[name](page);
    await page.waitForLoadState('load');
    await page.waitForTimeout(900);
    await page.screenshot({ path: path.join(folder, `${name}${suffix}.png`) });
    console.log(`${name}${suffix}`);
  }
  await page.close();
}
await browser.close();
