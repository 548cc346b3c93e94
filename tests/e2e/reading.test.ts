import { randomUUID } from 'node:crypto';
import { expect, test, type Page } from '@playwright/test';
import type { CalendarResponse } from '../../src/contract/calendar.ts';
import { address, addToLineUp, openAs } from './support.ts';

/* What is not read yet is not free, and what was chosen is looked at again before it is sent. */

const BUSY = '**/api/availability/busy';
const days = (page: Page) => page.getByRole('region', { name: 'When they are free' });
const openings = (page: Page) => page.getByRole('region', { name: 'Openings' });

async function planWithMika(page: Page, from: string) {
  await page.goto(address(`/plan?from=${from}`));
  await addToLineUp(page, 'sand', 'Mika Sandoval');
  await expect(openings(page).getByRole('button').first()).toBeVisible();
}

/** Takes an hour of somebody's own time, as they would elsewhere. */
async function take(page: Page, start: number) {
  const wall = (at: number) => new Date(at).toISOString().slice(0, 16);
  const answer = await page.request.post(address('/api/events'), {
    headers: { Origin: address(), 'Idempotency-Key': randomUUID() },
    data: {
      title: 'Came between',
      times: { startsAt: wall(start), endsAt: wall(start + 3_600_000), zone: 'UTC' },
    },
  });
  expect(answer.status()).toBe(201);
}

const chosenAt = (page: Page) => Number(new URL(page.url()).searchParams.get('at'));

test('days that are not read yet offer nothing, are not counted, and are not sent to', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Nadia Petrov');
  await planWithMika(page, '2027-03-01');
  await openings(page).getByRole('button').first().click();
  const send = page.getByRole('button', { name: 'Send to 1 person' });
  await expect(send).toBeEnabled();

  let letGo = () => undefined as void;
  const held = new Promise<void>((resolve) => (letGo = () => resolve()));
  await page.route(BUSY, async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(address(`${new URL(page.url()).pathname}${new URL(page.url()).search}`));
  // Nothing is there yet: no count, no opening, nothing to send.
  await expect(page.getByText('Reading everybody’s time …').first()).toBeVisible();
  await expect(days(page).getByText(/free/)).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^(Send|Save|Hold)/ })).toBeDisabled();
  letGo();
  await expect(
    days(page)
      .getByText(/all 2 free/)
      .first(),
  ).toBeVisible();
  await expect(send).toBeEnabled();

  // Moved on by days that come slowly.
  let letOn = () => undefined as void;
  const later = new Promise<void>((resolve) => (letOn = () => resolve()));
  await page.unroute(BUSY);
  await page.route(BUSY, async (route) => {
    await later;
    await route.continue();
  });
  await page.getByRole('button', { name: 'Later', exact: true }).click();
  await page.getByRole('button', { name: 'Later', exact: true }).click();
  await expect(days(page).getByText('being read …').first()).toBeVisible();
  const label = await days(page)
    .getByRole('button', { name: /being read/ })
    .last()
    .textContent();
  expect(label).not.toMatch(/free/);
  // A time in them can be chosen, and is not sent before it is known.
  const row = page.getByTestId(/^ridge-2027-04/).last();
  await row.click({ position: { x: 200, y: 8 } });
  await expect(send).toBeDisabled();
  letOn();
  await expect(days(page).getByText('being read …')).toHaveCount(0);
  await expect(send).toBeEnabled();
});

test('what cannot be read is not free either, and can be read again', async ({ browser }) => {
  const page = await openAs(browser, 'Nadia Petrov');
  await planWithMika(page, '2027-05-03');
  await openings(page).getByRole('button').first().click();
  await page.route(BUSY, (route) => route.abort());
  await page.getByRole('button', { name: 'Later', exact: true }).click();
  await page.getByRole('button', { name: 'Later', exact: true }).click();
  await expect(days(page).getByText('being read …').first()).toBeVisible();
  await expect(page.getByText('The server cannot be reached')).toBeVisible();
  await expect(days(page).getByText('being read …').first()).toBeVisible();
  await expect(days(page).getByText(/all 2 free/)).toHaveCount(0);
  await page.unroute(BUSY);
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(
    days(page)
      .getByText(/all 2 free/)
      .first(),
  ).toBeVisible();
});

test('a chosen time that somebody takes is seen at once, and is not sent unsaid', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Nadia Petrov');
  const mika = await openAs(browser, 'Mika Sandoval');
  await planWithMika(page, '2027-06-07');
  await openings(page).getByRole('button').first().click();
  const status = page.getByText('Everyone and everything in the line-up is free.');
  await expect(status).toBeVisible();
  await take(mika, chosenAt(page));
  await expect(page.getByText('Mika Sandoval: taken').first()).toBeVisible();

  // The same where nothing is heard of it.
  const deaf = await page.context().newPage();
  await deaf.route('**/api/live**', (route) => route.abort());
  await planWithMika(deaf, '2027-06-14');
  await openings(deaf).getByRole('button').first().click();
  await expect(deaf.getByText('Everyone and everything in the line-up is free.')).toBeVisible();
  const at = chosenAt(deaf);
  await take(mika, at);
  await deaf.getByLabel('Title of the meeting').fill('Too late');
  const send = deaf.getByRole('button', { name: 'Send to 1 person' });
  await send.click();
  await expect(deaf.getByText('Mika Sandoval is not free any more')).toBeVisible();
  const named = async () => {
    const answer = await page.request.get(
      address(`/api/calendar?from=${at - 86_400_000}&to=${at + 30 * 86_400_000}`),
    );
    return ((await answer.json()) as CalendarResponse).items.filter(
      (one) => one.title === 'Too late',
    );
  };
  expect(await named()).toHaveLength(0);
  // The next is one click away, and is sent.
  await deaf.getByText('Still free for all:').locator('..').getByRole('button').first().click();
  await expect(deaf.getByText('Everyone and everything in the line-up is free.')).toBeVisible();
  expect(chosenAt(deaf)).not.toBe(at);
  await send.click();
  await expect(deaf.getByText('Sent to 1 person').first()).toBeVisible();
  expect(await named()).toHaveLength(1);
});
