import { expect, test, type Page } from '@playwright/test';
import { hindrances, inLines } from './hindrances.ts';
import { createServer, type ViteDevServer } from 'vite';

/** The kit's own page is there in development only, and so is what serves it here. */
let vite: ViteDevServer;
let base: string;
test.beforeAll(async () => {
  vite = await createServer({
    server: { host: '127.0.0.1', port: 0, hmr: false },
    logLevel: 'error',
  });
  await vite.listen();
  base = vite.resolvedUrls!.local[0]!;
});
test.afterAll(() => vite.close());

const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
/** @param within the part that is looked at; all of the page unless said */
const found = async (page: Page, within = 'html') =>
  inLines(await hindrances(page, within, { runOnly: TAGS }));

for (const theme of ['light', 'dark'] as const) {
  test(`every part of the kit, in every state, hinders nobody, ${theme}`, async ({ browser }) => {
    const context = await browser.newContext({ colorScheme: theme });
    const page = await context.newPage();
    // The first time, everything has to be made ready for the browser.
    await page.goto(`${base}design`, { timeout: 120_000 });
    await expect(page.getByRole('heading', { name: 'Marmot’s parts' })).toBeVisible({
      timeout: 120_000,
    });
    const all = await found(page);

    // What opens, opened.
    await page.getByRole('combobox', { name: 'My time then' }).click();
    await expect(page.getByRole('option', { name: 'taken', exact: true })).toBeFocused();
    // The keys do not leave an open list, and what is behind it cannot be told from here.
    all.push(...(await found(page, '[role=listbox]')));
    // Looking through it may have moved the focus.
    await page.getByRole('option', { name: 'taken', exact: true }).focus();
    await page.keyboard.press('ArrowDown');
    await expect(page.getByRole('option', { name: 'perhaps taken' })).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('combobox', { name: 'My time then' })).toContainText(
      'perhaps taken',
    );
    await page.getByLabel('Time zone').click();
    await page.keyboard.type('nair');
    await expect(page.getByRole('option')).toHaveText(['Africa/Nairobi']);
    all.push(...(await found(page)));
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Time zone')).toContainText('Africa/Nairobi');

    await page.getByRole('spinbutton', { name: 'Times' }).fill('12');
    await expect(page.getByRole('spinbutton', { name: 'Times' })).toHaveAttribute(
      'aria-invalid',
      'true',
    );
    all.push(...(await found(page)));

    await page.getByRole('button', { name: 'Ask a question' }).click();
    await expect(page.getByRole('alertdialog')).toBeVisible();
    all.push(...(await found(page)));
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Open the panel' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    all.push(...(await found(page)));
    expect([...new Set(all)]).toEqual([]);
    await context.close();
  });
}
