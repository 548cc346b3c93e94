import { expect, test } from '@playwright/test';
import { address, idOf, makeEvent, openAs } from './support.ts';

test('a place that is taken is waited for, held once it is free, and taken', async ({
  browser,
}) => {
  const holder = await openAs(browser, 'Nadia Petrov');
  const noddy = await idOf(holder, 'Kittiwake');
  const event = await makeEvent(holder, {
    title: 'Net mending',
    times: { startsAt: '2027-04-28T10:00', endsAt: '2027-04-28T12:00', zone: 'Europe/Oslo' },
    resources: [noddy],
  });

  const page = await openAs(browser, 'Idris Kaya', { path: `/places?open=${noddy}` });
  const card = page.getByRole('dialog', { name: 'Kittiwake' });
  await card.getByLabel('What for, if you like').fill('Rope splicing');
  await card.getByLabel('Day', { exact: true }).fill('2027-04-28');
  await card.getByLabel('Start', { exact: true }).fill('10:30');
  await card.getByLabel('End', { exact: true }).fill('11:30');
  await card.getByRole('button', { name: 'Book Kittiwake' }).click();
  await card.getByRole('button', { name: 'Hold it and tell me' }).click();
  await expect(card.getByText('You wait for it. It stands on Today.')).toBeVisible();

  await page.goto(address('/'));
  const awaited = page.getByRole('region', { name: 'Places you wait for' });
  await expect(awaited).toContainText('Kittiwake, Wed 28 Apr 10:30–11:30, Rope splicing');
  await expect(awaited.getByText('taken', { exact: true })).toBeVisible();

  await holder.evaluate(async (id) => {
    const answer = await fetch(`/api/events/${id}/cancel`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ version: 1, tell: 'nobody' }),
    });
    if (!answer.ok) throw new Error(await answer.text());
  }, event);
  // The clock looks every quarter of a minute; Today hears of it by itself.
  await expect(awaited.getByText(/is free again; held for you until 10:12/)).toBeVisible({
    timeout: 45_000,
  });
  await awaited.getByRole('button', { name: 'Take Kittiwake' }).click();
  await expect(page.getByText('Kittiwake is yours.').first()).toBeVisible();
  await expect(awaited).toHaveCount(0);
  await page.goto(address('/places/board?date=2027-04-28&kind=room'));
  await expect(page.locator('[data-lane][aria-label^="Kittiwake:"]')).toContainText(
    'Rope splicing',
  );
});
