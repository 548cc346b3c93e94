import { expect, test } from '@playwright/test';
import { address, choose, openAs } from './support.ts';

test('any so long on a day is found, near to people, and what keeps everything out is named', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Nadia Petrov', { path: '/places/find?date=2027-05-13' });
  const places = page.getByRole('list', { name: 'Places' }).getByRole('listitem');
  await expect(places.first()).toContainText(/free \d\d:\d\d–\d\d:\d\d/);
  await choose(page.getByRole('combobox', { name: 'How long' }), 'any 1 h 30 min');
  await choose(page.getByRole('combobox', { name: 'At what hours' }), 'in the afternoon');
  await expect(page.getByRole('button', { name: /^Book 12:00–13:30: / }).first()).toBeVisible();

  await page.getByRole('button', { name: 'nobody' }).click();
  await page.getByRole('combobox', { name: 'Near whom' }).fill('Ines');
  await page.getByRole('option', { name: /Ines Aldabe/ }).click();
  await page.keyboard.press('Escape');
  await expect(places.first()).toContainText(/on Ines’s floor|at Ines’s site/);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Ines Aldabe' })).toBeVisible();

  // Nobody has a room with a stage for so few: dropping the right condition is one click.
  await page.goto(address('/places/find?date=2027-05-13&with=stage,whiteboard&seats=40'));
  await expect(page.getByText(/Nothing is free: “whiteboard” keeps out the most/)).toBeVisible();
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Without “whiteboard” 1 place' })
    .getByRole('button', { name: 'Drop it' })
    .click();
  await expect(places.filter({ hasText: 'Cormorant Hall' })).toBeVisible();
});

test('a room is found for typed hours and booked, and is not offered again', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Grace Paul', { path: '/places/find?date=2027-05-12&site=1' });
  await page.getByRole('button', { name: 'Type the hours' }).click();
  await page.getByRole('textbox', { name: 'From' }).fill('11');
  await page.getByRole('textbox', { name: 'Until' }).fill('12.30');
  await page.getByRole('button', { name: 'Look then' }).click();
  const offer = page.getByRole('button', { name: /^Book 11:00–12:30: Skua/ });
  await offer.click();
  await expect(page.getByText(/^Skua is yours, Wed 12 May 11:00–12:30/).first()).toBeVisible();
  await expect(offer).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(offer).toBeVisible();
});
