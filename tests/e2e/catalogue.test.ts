import { expect, test } from '@playwright/test';
import { address, choose, openAs } from './support.ts';

test('a steward adds a place, changes its rules seeing what they do, and retires it', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/places' });
  await page.getByRole('button', { name: 'Add a place' }).click();
  const added = page.getByRole('dialog', { name: 'A new place' });
  await added.getByRole('button', { name: 'Add it' }).click();
  await expect(added.getByRole('alert')).toContainText('must not be empty');
  await added.getByLabel('Name', { exact: true }).fill('Red Phalarope');
  await choose(added.getByLabel('Kind'), 'Lab');
  await added.getByLabel('Features').fill('microscope, seawater');
  await added.getByLabel('For at most').fill('two');
  await expect(added.getByRole('alert')).toContainText('must be a length from 5 min to 31 days');
  // What cannot be read is not saved: the field is brought to whoever would.
  await added.getByRole('button', { name: 'Add it' }).click();
  await expect(added.getByLabel('For at most')).toBeFocused();
  await added.getByLabel('For at most').fill('');
  await added.getByLabel('Booked ahead at most').fill('2 weeks');
  await added.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText('Red Phalarope can be booked now.').first()).toBeVisible();
  const card = page.getByRole('dialog', { name: 'Red Phalarope' });
  await expect(card.getByText('4 seats, microscope, seawater')).toBeVisible();

  await card.getByLabel('What for, if you like').fill('Plankton slides');
  await card.getByLabel('Day', { exact: true }).fill('2027-05-11');
  await card.getByLabel('Start', { exact: true }).fill('10:00');
  await card.getByLabel('End', { exact: true }).fill('13:00');
  await card.getByRole('button', { name: 'Book Red Phalarope' }).click();
  await expect(page.getByText(/^Red Phalarope is yours, Tue 11 May/).first()).toBeVisible();

  await card.getByRole('button', { name: 'Change what it is, and its rules …' }).click();
  await expect(card.getByLabel('Booked ahead at most')).toHaveValue('14 days');
  await card.getByLabel('Booked ahead at most').fill('');
  await card.getByLabel('For at most').fill('2 h');
  await card.getByRole('button', { name: 'Change Red Phalarope' }).click();
  await expect(card.getByRole('status').filter({ hasText: 'stands against' })).toContainText(
    'Tue 11 May 10:00–13:00, Plankton slides, Ines Aldabe: Red Phalarope is booked for 2 h at most',
  );
  await card.getByRole('button', { name: 'Change it all the same' }).click();
  await expect(page.getByText('Red Phalarope is changed.').first()).toBeVisible();
  await expect(card.getByText('For 2 h at most.')).toBeVisible();

  await card.getByRole('button', { name: 'Take it out of use …' }).click();
  await card.getByText('For good, from now on: it is retired').click();
  await expect(
    card.getByText(/One booking, which has another place|for 1 nothing else fits/),
  ).toBeVisible();
  await card.getByRole('button', { name: /^Retire Red Phalarope/ }).click();
  await expect(page.getByText(/^Red Phalarope is retired/).first()).toBeVisible();
  await page.goto(address('/places?kind=all&q=phalarope'));
  await expect(page.getByText('Nothing matches all of this')).toBeVisible();
});

test('places come from a file, which is looked at first', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/places' });
  await page.getByRole('button', { name: 'From a file' }).click();
  const panel = page.getByRole('dialog', { name: 'Places from a file' });
  const choosing = (text: string) =>
    panel
      .getByLabel('Choose a file')
      .setInputFiles({ name: 'places.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await choosing('Name,Kind,Site,Seats\nStint,cellar,Skerry House,2\n');
  await expect(panel.getByRole('alert')).toContainText(
    'Line 2, kind: “cellar” must be one of room',
  );
  await choosing('Name,Kind,Site,Seats\nStint,desk,Skerry House,1\nStilt,desk,Skerry House,1\n');
  await expect(panel.getByText('2 to be added, 0 to be changed, 0 as they are.')).toBeVisible();
  await panel.getByRole('button', { name: 'Take 2 places from it' }).click();
  await expect(page.getByText('2 places added, 0 changed.').first()).toBeVisible();
  // What a rule of a file does to bookings is said before it is taken.
  await page.getByRole('button', { name: 'From a file' }).click();
  await choosing(
    'Name,Site,Open,Retired\nGannet,Skerry House,Mon-Fri 9-10,\nStint,Skerry House,,yes\n',
  );
  await expect(panel.getByText('1 to be changed, 1 to be retired')).toBeVisible();
  const against = panel.getByRole('region', { name: 'What stands against the new rules' });
  await expect(against).toContainText(/Gannet, Skerry House: \d+ bookings.*first .*: it is open/);
  await choosing('Name,Site,Retired\nStint,Skerry House,yes\n');
  await panel.getByRole('button', { name: 'Take 1 place from it' }).click();
  await expect(page.getByText('0 places added, 0 changed, 1 retired.').first()).toBeVisible();
  await page.goto(address('/places?kind=desk&q=sti'));
  await expect(page.getByRole('button', { name: /^Stint/ })).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Stilt/ })).toBeVisible();
});
