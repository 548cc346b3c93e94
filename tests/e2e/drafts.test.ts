import { expect, test } from '@playwright/test';
import { hindrances } from './hindrances.ts';
import { address, openAs } from './support.ts';

test('a draft is kept where nobody else sees it, sent, talked about, and heard of behind the bell', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Fatou Diarra', { path: '/events/new' });
  await page.getByLabel('Title').fill('Buoy figures');
  await page.getByLabel('Add a person, team or place').fill('Emil');
  await page.locator('[cmdk-item]', { hasText: 'Emil Rask' }).last().click();
  await page.getByRole('button', { name: 'Keep as a draft' }).click();
  await expect(
    page.getByText('“Buoy figures” is kept as a draft; nobody else sees it.', { exact: true }),
  ).toBeVisible();
  await expect(page).toHaveURL(/event=/);
  const id = new URL(page.url()).searchParams.get('event')!;

  const emil = await openAs(browser, 'Emil Rask');
  expect((await emil.request.get(address(`/api/events/${id}`))).status()).toBe(404);

  await page.goto(address('/replies'));
  await page.getByRole('link', { name: /Buoy figures/ }).click();
  const draft = page.getByRole('region', { name: 'Draft' });
  await expect(draft).toContainText('nobody else sees it');
  await draft.getByRole('switch').click();
  await expect(page.getByText('It holds its time now.', { exact: true })).toBeVisible();
  await draft.getByLabel('Message to them').fill('Bring last year’s');
  expect(await hindrances(page, '[role=dialog]')).toEqual([]);
  await draft.getByRole('button', { name: 'Send to Emil Rask' }).click();
  await expect(
    page.getByText('“Buoy figures” is sent to 1 person.', { exact: true }),
  ).toBeVisible();

  // It comes to whom it asks while they look, with the words that were sent.
  const bell = emil.getByRole('button', { name: /^What is new: \d+$/ });
  await expect(bell).toBeVisible();
  await emil
    .getByRole('region', { name: 'Waits for your answer' })
    .getByRole('link', { name: 'Buoy figures' })
    .click();
  await expect(emil.getByText('Bring last year’s')).toBeVisible();
  await emil.getByLabel('Say something about it').fill('The old ones are in the safe, @fat');
  await emil.getByRole('option', { name: 'Fatou Diarra' }).click();
  await emil.getByRole('button', { name: 'Say it' }).click();
  await expect(emil.getByText('@Fatou Diarra')).toBeVisible();

  await page.getByRole('button', { name: /^What is new: \d+$/ }).click();
  const news = page.getByRole('dialog', { name: 'What is new' });
  await expect(
    news.getByRole('listitem').filter({ hasText: 'Buoy figures' }).first(),
  ).toContainText('Emil Rask wrote about it');
  // Once looked at it is read, on another device too.
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'What is new', exact: true })).toBeVisible();
  const phone = await openAs(browser, 'Fatou Diarra', { viewport: { width: 390, height: 844 } });
  await expect(phone.getByRole('button', { name: 'What is new', exact: true })).toBeVisible();
});

test('whoever acts for somebody plans in their name, and it is said', async ({ browser }) => {
  const page = await openAs(browser, 'Beth Comeau', { path: '/events/new' });
  await page.getByLabel('Title').fill('Stores for spring');
  await page.getByRole('combobox', { name: /In whose name/ }).click();
  await page.getByRole('option', { name: 'Josephine Arseneau' }).click();
  await page.getByLabel('Add a person, team or place').fill('Tariq');
  await page.locator('[cmdk-item]', { hasText: 'Tariq Saleh' }).last().click();
  await page.getByRole('button', { name: /^Send to 1 person/ }).click();
  await expect(page).toHaveURL(/event=/);
  const tariq = await openAs(browser, 'Tariq Saleh');
  await tariq.getByRole('button', { name: /^What is new/ }).click();
  await expect(tariq.getByRole('dialog', { name: 'What is new' })).toContainText(
    'Josephine Arseneau invites you: Stores for spring',
  );
});
