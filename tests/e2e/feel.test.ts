import { expect, test, type Page } from '@playwright/test';
import { address, openAs } from './support.ts';

/** A layout may move by so much in all, as Chromium counts it, once something is painted. */
const MOST_SHIFT = 0.02;

interface Shift {
  value: number;
  what: string[];
}

/** What moved by itself after the first paint, and how much. */
async function shifts(page: Page, path: string, shown: () => Promise<void>): Promise<Shift[]> {
  await page.addInitScript(() => {
    const seen: Shift[] = [];
    (window as unknown as { shifts: Shift[] }).shifts = seen;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEntry & {
        value: number;
        hadRecentInput: boolean;
        sources: { node: Element | null }[];
      })[]) {
        if (entry.hadRecentInput) continue;
        const what = entry.sources.map(({ node }) => (node?.outerHTML ?? '').slice(0, 90));
        seen.push({ value: entry.value, what });
      }
    }).observe({ type: 'layout-shift', buffered: true });
  });
  await page.goto(address(path));
  await shown();
  await page.waitForLoadState('networkidle').catch(() => undefined);
  return page.evaluate(() => (window as unknown as { shifts: Shift[] }).shifts);
}

for (const [name, options] of [
  ['at a desk', {}],
  ['on a phone', { viewport: { width: 390, height: 844 } }],
] as const) {
  for (const [path, heading] of [
    ['/', 'Waits for your answer'],
    ['/calendar', 'Hours'],
    ['/plan', 'When they are free'],
  ] as const) {
    test(`nothing moves by itself in ${path} ${name}`, async ({ browser }) => {
      const page = await openAs(browser, 'Ines Aldabe', options);
      const found = await shifts(page, path, () =>
        expect(page.getByRole('region', { name: heading }).first()).toBeVisible(),
      );
      const sum = found.reduce((total, one) => total + one.value, 0);
      expect(sum, JSON.stringify(found, null, 1)).toBeLessThan(MOST_SHIFT);
    });
  }
}

test('by keys alone a meeting is made, sent, answered and cancelled', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe');
  const key = (...names: string[]) =>
    names.reduce<Promise<void>>(
      (before, name) => before.then(() => page.keyboard.press(name)),
      Promise.resolve(),
    );
  /** Goes on with Tab until something is reached. */
  const reach = async (name: string | RegExp, role: 'button' | 'link' | 'combobox' = 'button') => {
    const wanted = page.getByRole(role, { name }).first();
    await expect(wanted).toBeVisible();
    for (let k = 0; k < 150; k++) {
      if (await wanted.evaluate((element) => element === document.activeElement)) return;
      await page.keyboard.press('Tab');
    }
    throw new Error(`${name} is not reached by keys`);
  };
  await page.goto(address('/events/new'));
  await expect(page.getByLabel('Title')).toBeFocused();
  await page.keyboard.type('Kelp by keys');
  await key('Tab');
  await page.keyboard.type('22 June 2027');
  await reach(/Add a person, team or place/, 'combobox');
  await page.keyboard.type('tomas ok');
  await expect(page.getByRole('option', { name: /Tomas Okafor/ })).toBeVisible();
  await key('Enter');
  await expect(page.getByRole('listitem').filter({ hasText: 'Tomas Okafor' })).toBeVisible();
  await reach('Send to 1 person');
  await key('Enter');
  await expect(page.getByText('“Kelp by keys” is sent to 1 person.').first()).toBeVisible();

  const tomas = await openAs(browser, 'Tomas Okafor');
  const accept = tomas
    .getByRole('region', { name: 'Waits for your answer' })
    .getByRole('listitem')
    .filter({ hasText: 'Kelp by keys' })
    .getByRole('button', { name: /^Accept/ });
  await expect(accept).toBeVisible();
  for (let k = 0; k < 150; k++) {
    if (await accept.evaluate((element) => element === document.activeElement)) break;
    await tomas.keyboard.press('Tab');
  }
  await expect(accept).toBeFocused();
  await tomas.keyboard.press('Enter');
  await expect(accept).toHaveCount(0);

  // The meeting stands open beside the calendar; it is cancelled there, and told.
  await reach('Cancel it');
  await key('Enter');
  await expect(page.getByRole('alertdialog')).toBeVisible();
  await reach('Cancel it and tell 1 person');
  await key('Enter');
  await expect(page.getByText('“Kelp by keys” is cancelled.').first()).toBeVisible();
});
