import { expect, test } from '@playwright/test';
import { meetingJourney } from './meetingJourney.ts';
import { addToLineUp, openAs } from './support.ts';

test('a meeting of three zones is planned, sent, answered and followed live', async ({
  browser,
}) => {
  await meetingJourney(browser);
});

test('dragging over a day and typing the time stay in step, and the address keeps the plan', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Leila Haddad', { path: '/plan' });
  await addToLineUp(page, 'isla', 'Isla Cunningham');
  await expect(page.getByRole('region', { name: 'What would help' })).toBeVisible();
  await page.getByLabel('Day', { exact: true }).fill('2026-12-02');
  await page.getByLabel('Start', { exact: true }).fill('1045');
  await page.getByLabel('Length').fill('1h30');
  await page.getByLabel('Length').press('Enter');
  await expect(page.getByText('Wed 2 Dec 10:45–12:15')).toBeVisible();
  await expect(page.getByText(/20:45 Hobart/)).toBeVisible();
  await expect(page.getByText(/Isla Cunningham.*: outside working hours/)).toBeVisible();

  await page.getByRole('group', { name: /Arrows move the chosen time/ }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByLabel('Start', { exact: true })).toHaveValue('11:00');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(page.getByText('Wed 2 Dec 11:00–12:15')).toBeVisible();

  const row = page.getByTestId('ridge-2026-12-03');
  const box = (await row.boundingBox())!;
  const x = (hour: number) => box.x + ((hour - 6) / 15) * box.width + 3;
  await page.mouse.move(x(9), box.y + 10);
  await page.mouse.down();
  await page.mouse.move(x(9.75), box.y + 10, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText('Thu 3 Dec 09:00–10:00')).toBeVisible();
  await expect(page.getByLabel('Start', { exact: true })).toHaveValue('09:00');

  // The chosen time is moved by its middle and stretched by its edge.
  const pull = async (from: number, to: number) => {
    // Where it is by now: what stands beside it may have become shorter.
    const { y } = (await row.boundingBox())!;
    await page.mouse.move(x(from), y + 10);
    await page.mouse.down();
    await page.mouse.move(x(to), y + 10, { steps: 4 });
    await page.mouse.up();
  };
  await pull(9.5, 11.5);
  await expect(page.getByText('Thu 3 Dec 11:00–12:00')).toBeVisible();
  await pull(12, 12.75);
  await expect(page.getByText('Thu 3 Dec 11:00–13:00')).toBeVisible();
  await expect(page.getByLabel('End', { exact: true })).toHaveValue('13:00');
  await page.getByLabel('End', { exact: true }).fill('12');
  await page.getByLabel('End', { exact: true }).press('Enter');
  await pull(11.5, 9.5);

  await page.reload();
  await expect(page.getByText('Thu 3 Dec 09:00–10:00')).toBeVisible();
  await expect(
    page.getByRole('region', { name: 'Line-up' }).getByText('Isla Cunningham'),
  ).toBeVisible();

  // Setting her aside opens the line-up up at once.
  await page.getByRole('button', { name: 'Set aside Isla Cunningham' }).click();
  await expect(page.getByText('Isla Cunningham', { exact: true })).toHaveClass(/line-through/);
  await expect(
    page.getByRole('region', { name: 'Openings' }).getByRole('button').first(),
  ).toContainText('free');
});
