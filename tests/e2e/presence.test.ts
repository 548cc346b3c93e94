import { expect, test } from '@playwright/test';
import { address, idOf, makeEvent, openAs } from './support.ts';

test('somebody checks in from Today, leaves on the place’s card, and comes back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Idris Kaya');
  const gannet = await idOf(page, 'Gannet');
  await makeEvent(page, {
    title: 'Tide tables, quietly',
    times: { startsAt: '2026-11-24T09:10', endsAt: '2026-11-24T09:30', zone: 'Europe/Oslo' },
    resources: [gannet],
  });
  await page.goto(address('/'));
  await expect(page.getByText('Given to others at 09:22 unless you check in')).toBeVisible();
  await page.getByRole('button', { name: 'Check in to Gannet' }).click();
  await expect(page.getByText('Checked in at 09:12')).toBeVisible();

  await page.goto(address(`/places?open=${gannet}`));
  const card = page.getByRole('dialog', { name: 'Gannet' });
  await expect(card.getByText('Tide tables, quietly, yours, in use')).toBeVisible();
  await card.getByRole('button', { name: 'Leave, free until 09:30' }).click();
  await expect(page.getByText('Gannet is free for others, 09:12–09:30.').first()).toBeVisible();
  await expect(card.getByText('Left at 09:12; the rest is free for others')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Gannet is yours again, until 09:30.').first()).toBeVisible();
  await expect(card.getByText('Checked in at 09:12')).toBeVisible();
});

test('a place to which a steward agrees is asked for, given, and told of', async ({ browser }) => {
  const page = await openAs(browser, 'Idris Kaya');
  const hall = await idOf(page, 'Cormorant Hall');
  await page.goto(address(`/places?open=${hall}`));
  const card = page.getByRole('dialog', { name: 'Cormorant Hall' });
  await expect(card.getByText(/a steward agrees first; NOK 600 an hour/)).toBeVisible();
  await card.getByLabel('What for, if you like').fill('Choir of the sea');
  await card.getByLabel('Day', { exact: true }).fill('2026-12-09');
  await card.getByLabel('Start', { exact: true }).fill('18:00');
  await card.getByLabel('End', { exact: true }).fill('19:00');
  await card.getByRole('button', { name: 'Ask for Cormorant Hall' }).click();
  await expect(
    page
      .getByText('Cormorant Hall is held, Wed 9 Dec 18:00–19:00, until a steward agrees.')
      .first(),
  ).toBeVisible();

  const steward = await openAs(browser, 'Ines Aldabe');
  const wanted = steward
    .getByRole('region', { name: 'Places wanted' })
    .getByRole('listitem')
    .filter({ hasText: 'Wed 9 Dec 18:00–19:00, for Idris Kaya' });
  await expect(wanted).toContainText('Cormorant Hall');
  // What it is for he shares with colleagues no more than that he is busy.
  await expect(wanted).not.toContainText('Choir of the sea');
  await expect(wanted).toContainText('NOK 600');
  await wanted
    .getByRole('button', { name: 'Give it: Cormorant Hall to Idris Kaya', exact: true })
    .click();
  await expect(steward.getByText('Idris Kaya has Cormorant Hall.').first()).toBeVisible();
  await expect(wanted).toHaveCount(0);

  await page.goto(address('/'));
  await page.getByRole('button', { name: 'What is new' }).click();
  await expect(page.getByText('Cormorant Hall is yours: a steward agreed')).toBeVisible();
});
