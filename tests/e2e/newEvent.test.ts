import { expect, test } from '@playwright/test';
import { addToLineUp, openAs } from './support.ts';

test('a new event names who is taken beside its form, offers rooms, and goes into Plan and back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/events/new' });
  const day = page.getByRole('region', { name: 'The day of everybody' });
  const add = async (part: string, name: string) => {
    await page.getByPlaceholder('Add a person, team or place').fill(part);
    await page.locator('[cmdk-item]', { hasText: name }).first().click();
  };
  await expect(page.getByRole('button', { name: 'Save to my calendar' })).toBeVisible();
  await page.getByLabel('Title').fill('Buoy paint');
  await page.getByLabel('Day', { exact: true }).fill('2026-11-26');
  await page.getByLabel('Start', { exact: true }).fill('12');
  await page.getByLabel('End', { exact: true }).fill('12.45');
  await add('sand', 'Mika Sandoval');
  await add('tom', 'Tomas Okafor');

  // Everybody has a lane, and what the time runs into is said at once, there and in the list.
  await expect(day.getByRole('img', { name: /^Mika Sandoval:/ })).toBeVisible();
  await expect(day.getByRole('img', { name: /^Tomas Okafor:/ })).toBeVisible();
  await expect(day.getByRole('status')).toContainText('outside their hours, 07:00 there');
  const mika = page.getByRole('listitem').filter({ hasText: 'Mika Sandoval' });
  await expect(mika).toContainText('Halifax, 07:00 there');
  await mika.getByRole('button', { name: /is required/ }).click();
  await expect(mika.getByRole('button', { name: /is optional/ })).toBeVisible();

  // Dragging the time over the lanes types it.
  const lanes = (await day.getByRole('img', { name: /^Mika Sandoval:/ }).boundingBox())!;
  const x = (hour: number) => lanes.x + ((hour - 7) / 12) * lanes.width + 2;
  await page.mouse.move(x(12.3), lanes.y + 5);
  await page.mouse.down();
  await page.mouse.move(x(14.3), lanes.y + 5, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByLabel('Start', { exact: true })).toHaveValue('14:00');
  await expect(page.getByLabel('End', { exact: true })).toHaveValue('14:45');

  // A room that is free and large enough is one click away, and is held.
  const room = page.getByRole('button', { name: / seats$/ }).first();
  const name = (await room.textContent())!.replace(/\s*\d+ seats$/, '');
  await room.click();
  await expect(page.getByRole('button', { name: `Send to 2 people, hold ${name}` })).toBeVisible();
  await expect(page.getByText(/Invitations go to Mika Sandoval and Tomas Okafor/)).toBeVisible();

  // Into Plan with all of it, and back with another time and nothing lost.
  await page.getByRole('button', { name: 'More times in Plan' }).click();
  await expect(page.getByLabel('Title of the meeting')).toHaveValue('Buoy paint');
  await addToLineUp(page, 'wanj', 'Wanjiru Keele');
  await page.getByRole('region', { name: 'Openings' }).getByRole('button').first().click();
  await page.getByRole('button', { name: 'Take this time to the form' }).click();
  await expect(page).toHaveURL(/events\/new/);
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Buoy paint');
  await expect(page.getByRole('listitem').filter({ hasText: 'Wanjiru Keele' })).toBeVisible();
  await expect(
    page.getByRole('listitem').filter({ hasText: 'Mika Sandoval' }).getByText('optional'),
  ).toBeVisible();
  await page.getByRole('button', { name: `Send to 3 people, hold ${name}` }).click();
  await expect(page.getByText('“Buoy paint” is sent to 3 people.').first()).toBeVisible();
  await expect(page.getByRole('dialog', { name: 'Buoy paint' })).toContainText(name);
});

test('the place is a room of Marmot’s that is reserved, or plain text, and the form says which', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Clara Weiss', { path: '/calendar?date=2027-03-09' });
  await page.getByRole('button', { name: 'New event', exact: true }).click();
  const panel = page.getByRole('dialog');
  // It begins in the days that are looked at.
  await expect(panel.getByLabel('Day', { exact: true })).toHaveValue('Mon 8 Mar 2027');
  const field = panel.getByRole('combobox', { name: 'Add a person, team or place' });
  await panel.getByLabel('Title').fill('Knots');
  await field.fill('By the slipway');
  // What nobody is called is no place unless it is chosen as one.
  const inWords = page.getByRole('option', { name: /where it is, in words/ });
  await expect(inWords).toBeVisible();
  await expect(inWords).toHaveAttribute('data-selected', 'false');
  await page.keyboard.press('Enter');
  await expect(field).toHaveValue('By the slipway');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  const words = panel.getByRole('textbox', { name: 'Where, in words' });
  await expect(words).toHaveValue('By the slipway');
  await expect(panel.getByText('in words: nothing is reserved')).toBeVisible();
  await words.fill('');
  await words.pressSequentially('By the boats');
  await panel.getByRole('button', { name: 'Leave out where it is' }).click();
  await expect(words).toHaveCount(0);
  await field.fill('Gann');
  await page.getByRole('option', { name: /^Gannet/ }).click();
  await expect(field).toHaveValue('');
  await panel.getByRole('button', { name: 'Hold Gannet' }).click();
  await expect(page.getByText('“Knots” is in your calendar.').first()).toBeVisible();
});
