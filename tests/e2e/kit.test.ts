import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
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

/** @param within the part that is looked at; all of the page unless said */
async function hindrances(page: Page, within = 'html'): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .include(within)
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  return violations.map(
    (one) => `${one.id}: ${one.nodes.map((node) => node.html.slice(0, 140)).join(' | ')}`,
  );
}

for (const theme of ['light', 'dark'] as const) {
  test(`every part of the kit, in every state, hinders nobody, ${theme}`, async ({ browser }) => {
    const context = await browser.newContext({ colorScheme: theme });
    const page = await context.newPage();
    // The first time, everything has to be made ready for the browser.
    await page.goto(`${base}design`, { timeout: 120_000 });
    await expect(page.getByRole('heading', { name: 'Marmot’s parts' })).toBeVisible({
      timeout: 120_000,
    });
    const found = await hindrances(page);

    // What opens, opened.
    await page.getByRole('combobox', { name: 'My time then' }).click();
    await expect(page.getByRole('option', { name: 'taken', exact: true })).toBeFocused();
    // The keys do not leave an open list, and what is behind it cannot be told from here.
    found.push(...(await hindrances(page, '[role=listbox]')));
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
    found.push(...(await hindrances(page)));
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Time zone')).toContainText('Africa/Nairobi');

    await page.getByRole('spinbutton', { name: 'Times' }).fill('12');
    await expect(page.getByRole('spinbutton', { name: 'Times' })).toHaveAttribute(
      'aria-invalid',
      'true',
    );
    found.push(...(await hindrances(page)));

    await page.getByRole('button', { name: 'Ask a question' }).click();
    await expect(page.getByRole('alertdialog')).toBeVisible();
    found.push(...(await hindrances(page)));
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Open the panel' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    found.push(...(await hindrances(page)));
    expect([...new Set(found)]).toEqual([]);
    await context.close();
  });
}
