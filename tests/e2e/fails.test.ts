import { expect, test } from '@playwright/test';
import { address, choose, openAs } from './support.ts';

test('what cannot be fetched takes nothing else with it', async ({ browser }) => {
  const page = await openAs(browser, 'Grace Paul');
  await page.route('**/assets/*.js', (route) => route.abort());
  await page.getByRole('button', { name: /^What is new/ }).click();
  const news = page.getByRole('dialog', { name: 'What is new' });
  await expect(news.getByRole('alert')).toContainText('Something went wrong in what is new');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: /November 2026/ })).toBeVisible();
});

test('what cannot be fetched once is fetched once more', async ({ browser }) => {
  const page = await openAs(browser, 'Grace Paul');
  let isAway = true;
  await page.route('**/assets/*.js', (route) => {
    // All of the first try is gone by then, and nothing of the second asked for.
    setTimeout(() => (isAway = false), 300);
    return isAway ? route.abort() : route.continue();
  });
  await page.getByRole('button', { name: /^What is new/ }).click();
  const news = page.getByRole('dialog', { name: 'What is new' });
  await expect(news.getByRole('link').first()).toBeVisible();
});

test('who is signed in stays in their view when that cannot be read again', async ({ browser }) => {
  const page = await openAs(browser, 'Samuel Kiprop', { path: '/preferences' });
  await expect(page.getByRole('heading', { name: 'Preferences', level: 1 })).toBeVisible();
  await page.route('**/api/session', (route) => route.fulfill({ status: 500, json: {} }));
  const asked = page.waitForResponse('**/api/session');
  await choose(page.getByRole('combobox', { name: 'Clock' }), '12 hours, 2:30 pm');
  await asked;
  await expect(page.getByRole('heading', { name: 'Preferences', level: 1 })).toBeVisible();
  await page.unroute('**/api/session');
  await choose(page.getByRole('combobox', { name: 'Clock' }), /^24 hours/);
  await expect(page.getByRole('combobox', { name: 'Clock' })).toContainText('24 hours');
});

test('what is typed stays in its field when what others offer comes in late', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Clara Weiss');
  let arrive = () => undefined as void;
  const late = new Promise<void>((resolve) => (arrive = resolve));
  await page.route('**/api/line-ups', async (route) => {
    await late;
    await route.continue();
  });
  await page.goto(address('/events/new'));
  const place = page.getByRole('combobox', { name: 'Add a person, team or place' });
  await place.pressSequentially('On the ');
  const arrived = page.waitForResponse('**/api/line-ups');
  arrive();
  await arrived;
  await page.keyboard.type('quay');
  await expect(place).toHaveValue('On the quay');
});
