import { expect, test } from '@playwright/test';
import { address, addToLineUp, openAs } from './support.ts';

test('a meeting of three zones is planned, sent, answered and followed live', async ({
  browser,
}) => {
  const ines = await openAs(browser, 'Ines Aldabe');
  await ines.getByRole('link', { name: 'Plan', exact: true }).click();
  await addToLineUp(ines, 'sand', 'Mika Sandoval');
  await addToLineUp(ines, 'wanj', 'Wanjiru Keele');
  await addToLineUp(ines, 'tom', 'Tomas Okafor');
  await addToLineUp(ines, 'gann', 'Gannet');

  // Ten days as silhouettes; one opens into a lane for each of the line-up.
  await expect(ines.getByTestId(/^ridge-/)).toHaveCount(10);
  await ines.getByRole('button', { name: /Thu 3 Dec.*Open its lanes/ }).click();
  await expect(ines.getByRole('img', { name: /^Mika Sandoval:/ })).toBeVisible();
  await expect(ines.getByRole('img', { name: /^Gannet:/ })).toBeVisible();

  // The best opening says why, and the header says it in every zone.
  const first = ines.getByRole('region', { name: 'Openings' }).getByRole('button').first();
  await expect(first).toContainText('all 4 free');
  await expect(first).toContainText('Gannet free');
  await first.click();
  await expect(ines.getByText(/\d\d:\d\d Halifax/)).toBeVisible();
  await expect(ines.getByText(/\d\d:\d\d Nairobi/)).toBeVisible();

  await ines.getByLabel('Title of the meeting').fill('Winter array plan');
  await ines.getByRole('button', { name: 'Send to 3 people, hold Gannet' }).click();
  await expect(ines).toHaveURL(/\/replies/);
  const card = ines.getByRole('listitem').filter({ hasText: 'Winter array plan' }).first();
  await expect(card).toContainText('3 no answer yet');

  const tomas = await openAs(browser, 'Tomas Okafor');
  await tomas
    .getByRole('region', { name: /Waits for your answer/ })
    .getByRole('link', { name: 'Winter array plan' })
    .click();
  await expect(tomas.getByText(/It fits|At the same time|Right beside it/).first()).toBeVisible();
  await tomas.getByLabel(/A note to Ines/).fill('With the new hydrophones');
  await tomas.getByRole('button', { name: 'Accept' }).click();
  await expect(tomas.getByText('Your answer: accepted.', { exact: true })).toBeVisible();

  // Ines has not touched her page.
  await expect(card).toContainText('1 accepted');
  await expect(card).toContainText('With the new hydrophones');

  // The Mailroom holds the letter with its iTIP REQUEST.
  await ines.goto(address('/mailroom'));
  await ines.getByLabel('Find by receiver or subject').fill('Winter array plan');
  await ines.getByRole('link', { name: /mika.sandoval/ }).click();
  await expect(
    ines.frameLocator('iframe').getByRole('heading', { name: 'Winter array plan' }),
  ).toBeVisible();
  await expect(ines.frameLocator('iframe').getByText(/Halifax time/)).toBeVisible();
  await ines.getByText('Calendar part, REQUEST').click();
  await expect(ines.getByText(/METHOD:REQUEST/)).toBeVisible();

  // The room shows the booking to somebody else, who may not know what it is for.
  await ines.getByRole('button', { name: 'Decline' }).click();
  await ines.goto(address('/replies'));
  await expect(
    ines.getByRole('listitem').filter({ hasText: 'Winter array plan' }).first(),
  ).toContainText('1 declined');
});

test('dragging over a day and typing the time stay in step, and the address keeps the plan', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Leila Haddad');
  await page.goto(address('/plan'));
  await addToLineUp(page, 'isla', 'Isla Cunningham');
  await expect(page.getByRole('region', { name: 'Blockers' })).toBeVisible();
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
    await page.mouse.move(x(from), box.y + 10);
    await page.mouse.down();
    await page.mouse.move(x(to), box.y + 10, { steps: 4 });
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
