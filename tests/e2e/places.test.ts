import { expect, test } from '@playwright/test';
import { address, choose, openAs } from './support.ts';

async function book(
  page: import('@playwright/test').Page,
  place: string,
  start: string,
  end: string,
) {
  await page.goto(address('/places'));
  await page.getByRole('button', { name: new RegExp(`^${place}`) }).click();
  const panel = page.getByRole('dialog');
  await panel.getByLabel('Day', { exact: true }).fill('2027-02-16');
  await panel.getByLabel('Start', { exact: true }).fill(start);
  await panel.getByLabel('End', { exact: true }).fill(end);
  await panel.getByRole('button', { name: `Book ${place}` }).click();
  return panel;
}

test('a room that is taken is refused with who has it, and another way is one click', async ({
  browser,
}) => {
  const ines = await openAs(browser, 'Ines Aldabe');
  await book(ines, 'Skua', '10', '11');
  await expect(ines.getByText(/Skua is yours, Tue 16 Feb 10:00–11:00/).first()).toBeVisible();

  const leila = await openAs(browser, 'Leila Haddad');
  const panel = await book(leila, 'Skua', '10:30', '11:30');
  await expect(
    panel.getByText(/Skua is taken, Tue 16 Feb 10:00–11:00 \(Ines Aldabe\)/),
  ).toBeVisible();
  const ways = panel.getByRole('group', { name: 'What would do instead' }).getByRole('button');
  await expect(ways).toHaveCount(3);
  await panel.getByRole('button', { name: /Skua Tue 16 Feb 11:00–12:00/ }).click();
  await expect(leila.getByText(/Skua is yours, Tue 16 Feb 11:00–12:00/).first()).toBeVisible();

  // Ines, who looks at the room's day, sees it without reloading.
  await expect(ines.getByRole('dialog').getByText('11:00–12:00')).toBeVisible();
});

test('places say what is free, and filters leave only what matches', async ({ browser }) => {
  const page = await openAs(browser, 'Mika Sandoval', { path: '/places' });
  await expect(page.getByRole('heading', { level: 2 }).first()).toHaveText('Bluff Station');
  await page.getByLabel('Name, site or feature').fill('hearing loop');
  await expect(page.getByRole('list', { name: 'Places' }).locator('[aria-expanded]')).toHaveCount(
    2,
  );
  await page.getByLabel('Name, site or feature').fill('nothing like it');
  await expect(page.getByText('Nothing matches all of this')).toBeVisible();
  await page.getByLabel('Name, site or feature').fill('');
  await choose(page.getByRole('combobox', { name: 'Site' }), 'Skerry House');
  await expect(page.getByRole('heading', { level: 3 })).toHaveText([
    'Floor 0',
    'Floor 1',
    'Floor 2',
    'Floor 3',
  ]);
  await choose(page.getByRole('combobox', { name: 'Floor' }), 'floor 2');
  await expect(page.getByRole('list', { name: 'Places' }).locator('[aria-expanded]')).toHaveText([
    /^Gannet/,
    /^Skua/,
  ]);
  await choose(page.getByRole('combobox', { name: 'Floor' }), 'any floor');
  await choose(page.getByRole('combobox', { name: 'Site' }), 'every site');
  await choose(page.getByLabel('Kind'), 'Equipment');
  await expect(page.getByRole('button', { name: /^Sonar kit/ })).toContainText(/of 3 left|Taken/);
});

test('a search for what is over, or through the night, says so and leads on', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Mika Sandoval', {
    path: '/places/find?kind=room&date=2026-11-20',
  });
  await expect(page.getByText('Fri 20 Nov is over', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Look today' }).click();
  await expect(page.getByRole('button', { name: /^Book .*: / }).first()).toBeVisible();

  await page.getByRole('button', { name: 'Type the hours' }).click();
  await page.getByLabel('From', { exact: true }).fill('22');
  await page.getByLabel('Until', { exact: true }).fill('night');
  await page.keyboard.press('Enter');
  await expect(page.getByText('a time such as 11 or 14:30')).toBeVisible();
  await expect(page.getByLabel('Until', { exact: true })).toBeFocused();
  await page.getByLabel('Until', { exact: true }).fill('2');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('At what hours')).toContainText('from 22:00 to 02:00 the next day');
  await expect(page.getByText(/^free 22:00 – \w+ \d+ Nov 02:00$/).first()).toBeVisible();
});

test('moving a booking onto a taken time offers another place, taken with one click', async ({
  browser,
}) => {
  const other = await openAs(browser, 'Josephine Arseneau');
  await book(other, 'Petrel', '9', '10');
  await expect(other.getByText(/Petrel is yours/).first()).toBeVisible();
  const mika = await openAs(browser, 'Mika Sandoval');
  await book(mika, 'Petrel', '10', '11');
  await expect(mika.getByText(/Petrel is yours/).first()).toBeVisible();

  await mika.goto(address('/calendar?date=2027-02-16'));
  await mika.getByRole('button', { name: /Petrel booked/ }).click();
  const panel = mika.getByRole('dialog');
  await panel.getByRole('button', { name: 'Change' }).click();
  await panel.getByLabel('Start', { exact: true }).fill('9:30');
  await panel.getByRole('button', { name: 'Save' }).click();
  await expect(panel.getByText(/Petrel is taken.*Josephine Arseneau/)).toBeVisible();
  await panel.getByRole('button', { name: /at the same time/ }).click();
  await expect(panel).toHaveCount(0);
  // It is called by the place it has now.
  await expect(mika.getByRole('button', { name: /Petrel booked/ })).toHaveCount(0);
  await expect(mika.getByTitle(/^\w[\w ]* booked, Tue 16 Feb 09:30–10:30$/)).toBeVisible();
});

test('what is free for an hour is had by one click, and given back by another', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Wanjiru Keele', { path: '/places?q=noddy' });
  const row = page
    .getByRole('list', { name: 'Places' })
    .getByRole('listitem')
    .filter({ hasText: 'Noddy' });
  await expect(row).toContainText('Free');
  await page.getByRole('button', { name: 'For an hour from now: Noddy' }).click();
  await expect(page.getByText(/^Noddy is yours, Tue 24 Nov 11:12–12:12/).first()).toBeVisible();
  await expect(row).toContainText('Taken until');
  await page.keyboard.press('Control+z');
  await expect(row).toContainText('Free');
});
