import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { address, addToLineUp, openAs } from './support.ts';

const VIEWS = [
  '/',
  '/calendar',
  '/calendar?view=month',
  '/calendar?view=year',
  '/calendar?view=agenda&search=here',
  '/calendar/cancelled',
  '/events/new',
  '/preferences',
  '/replies',
  '/places',
  '/people',
  '/mailroom',
  '/places?open=70',
  '/nowhere',
];
const PHONE = { viewport: { width: 390, height: 844 } };

async function grave(page: import('@playwright/test').Page) {
  const { violations } = await new AxeBuilder({ page }).analyze();
  return violations
    .filter((one) => one.impact === 'serious' || one.impact === 'critical')
    .map(
      (one) =>
        `${page.url()} ${one.id}: ${one.nodes.map((node) => node.html.slice(0, 120)).join(' | ')}`,
    );
}

for (const theme of ['light', 'dark'] as const) {
  test(`no view has a serious hindrance, ${theme}`, async ({ browser }) => {
    // Looking through every view takes longer than a journey does.
    test.setTimeout(360_000);
    const page = await openAs(browser, 'Ines Aldabe', { colorScheme: theme });
    const found: string[] = [];
    for (const view of VIEWS) {
      await page.goto(address(view));
      await page.getByRole('heading').first().waitFor();
      await expect(page.getByText(/^Reading .* …$/)).toHaveCount(0);
      found.push(...(await grave(page)));
    }
    await page.goto(address('/'));
    await page
      .getByRole('region', { name: /Waits for your answer/ })
      .getByRole('link')
      .first()
      .click();
    await page.getByRole('button', { name: 'Accept' }).waitFor();
    found.push(...(await grave(page)));
    await page.goto(address('/plan'));
    await addToLineUp(page, 'mika', 'Mika Sandoval');
    await page.getByRole('region', { name: 'Openings' }).getByRole('button').first().click();
    await expect(page.getByRole('img', { name: /^Mika Sandoval/ })).toBeVisible();
    found.push(...(await grave(page)));
    expect(found).toEqual([]);
  });
}

test('the sign-in has no serious hindrance, and tells a wrong password and no more', async ({
  page,
}) => {
  await page.goto(address());
  expect(await grave(page)).toEqual([]);
  await page.getByLabel('Mail address').fill('ines.aldabe@ternrock.example');
  await page.getByLabel('Password').fill('guess');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('Address or password is wrong.')).toBeVisible();
  await page.getByLabel('Password').fill('tern-rock');
  await page.getByLabel('Password').press('Enter');
  await expect(page.getByRole('heading', { name: /24 November 2026/ })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { name: /24 November 2026/ })).toBeVisible();
  await page.getByRole('button', { name: 'Ines', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
});

test('nothing runs off the side of a phone', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe', PHONE);
  for (const view of [...VIEWS, '/plan']) {
    await page.goto(address(view));
    await page.getByRole('heading').first().waitFor();
    const [inside, wide] = await page.evaluate(() => {
      const main = document.querySelector('#view')!;
      return [main.clientWidth, Math.max(main.scrollWidth, document.documentElement.scrollWidth)];
    });
    expect.soft(wide, view).toBeLessThanOrEqual(inside!);
  }
});

test('everything is reached by keys: the field, the list of keys, a view', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('/');
  await page.keyboard.type('gannet');
  await expect(page.locator('[cmdk-item]', { hasText: 'Gannet' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Gannet' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page).not.toHaveURL(/open=/);
});

test('pages load without a complaint of the content security policy', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe');
  const complaints: string[] = [];
  page.on('console', (message) => message.type() === 'error' && complaints.push(message.text()));
  page.on('pageerror', (error) => complaints.push(error.message));
  for (const view of ['/', '/calendar', '/events/new', '/plan', '/places?open=70', '/mailroom']) {
    await page.goto(address(view));
    await page.getByRole('heading').first().waitFor();
  }
  expect(complaints).toEqual([]);
});
