import { expect, test, type Page } from '@playwright/test';
import { address, idOf, makeEvent, openAs } from './support.ts';

/** Fills in that Puffin is out of use for a day, and waits for where its one booking goes. */
async function outOfUseFrom(page: Page, puffin: number, day: string) {
  await page.goto(address(`/places?open=${puffin}`));
  const card = page.getByRole('dialog', { name: 'Puffin' });
  await card.getByRole('button', { name: 'Take it out of use …' }).click();
  await card.getByLabel('Why, as others read it').fill('New carpet');
  const times = card.locator('form').filter({ hasText: 'Out of use' });
  await times.getByLabel('Day', { exact: true }).fill(day);
  await times.getByLabel('Day', { exact: true }).press('Tab');
  await times.getByLabel('Start', { exact: true }).fill('07:00');
  await times.getByLabel('Start', { exact: true }).press('Tab');
  await expect(times.getByText('One booking, which has another place.')).toBeVisible();
  return times;
}

test('a place goes out of use: its bookings go elsewhere by one click, and it comes back', async ({
  browser,
}) => {
  const holder = await openAs(browser, 'Idris Kaya');
  const puffin = await idOf(holder, 'Puffin');
  await makeEvent(holder, {
    title: 'Sorting shells',
    times: { startsAt: '2027-04-20T10:00', endsAt: '2027-04-20T11:00', zone: 'Europe/Oslo' },
    resources: [puffin],
  });

  const page = await openAs(browser, 'Ines Aldabe');
  const card = page.getByRole('dialog', { name: 'Puffin' });
  const times = await outOfUseFrom(page, puffin, '2027-04-20');
  // Whose it is, and no more: he shares with colleagues when he is busy.
  await expect(times.getByRole('listitem')).toContainText('Idris Kaya→ Kittiwake');
  await expect(times.getByRole('listitem')).not.toContainText('Sorting shells');
  await times
    .getByRole('button', { name: 'Take Puffin out of use, move 1, tell one person' })
    .click();
  await expect(page.getByText('Puffin is out of use, 1 booking moved.').first()).toBeVisible();

  await holder.goto(address('/'));
  await holder.getByRole('button', { name: 'What is new' }).click();
  await expect(holder.getByText('Puffin goes out of use; you have Kittiwake')).toBeVisible();
  await holder.goto(address('/places/board?date=2027-04-20&kind=room'));
  const lane = (name: string) => holder.locator(`[data-lane][aria-label^="${name}:"]`);
  await expect(lane('Kittiwake')).toContainText('Sorting shells');
  await expect(lane('Puffin')).toContainText('out of use: New carpet');

  await page.goto(address(`/places/board?date=2027-04-20&kind=room`));
  await page.goto(address(`/places?open=${puffin}`));
  await card.getByLabel('Day', { exact: true }).fill('2027-04-20');
  await card.getByLabel('Day', { exact: true }).press('Tab');
  await card.getByRole('button', { name: 'Use it again' }).click();
  await expect(
    card.getByText('1 booking went elsewhere with it and is still to come:'),
  ).toBeVisible();
  await card.getByRole('button', { name: 'Use it again, leave it there' }).click();
  await expect(page.getByText('Puffin can be booked again.').first()).toBeVisible();
  await expect(card.getByText('New carpet')).toHaveCount(0);
});

test('that a place is out of use is taken back by one step, with its booking', async ({
  browser,
}) => {
  const holder = await openAs(browser, 'Idris Kaya');
  const puffin = await idOf(holder, 'Puffin');
  await makeEvent(holder, {
    title: 'Pressing weed',
    times: { startsAt: '2027-04-28T10:00', endsAt: '2027-04-28T11:00', zone: 'Europe/Oslo' },
    resources: [puffin],
  });
  const page = await openAs(browser, 'Ines Aldabe');
  const times = await outOfUseFrom(page, puffin, '2027-04-28');
  await times
    .getByRole('button', { name: 'Take Puffin out of use, move 1, tell one person' })
    .click();
  await expect(page.getByText('Puffin is out of use, 1 booking moved.').first()).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('Taken back: all of it is as it was.').first()).toBeVisible();
  await page.goto(address('/places/board?date=2027-04-28&kind=room'));
  const lane = page.locator('[data-lane][aria-label^="Puffin:"]');
  await expect(lane).toContainText('Idris Kaya');
  await expect(lane).not.toContainText('out of use');
});
