import { expect, type Browser } from '@playwright/test';
import { address, addToLineUp, openAs } from './support.ts';

/** A meeting of three zones is planned, sent, answered and followed live, by two people. */
export async function meetingJourney(browser: Browser): Promise<void> {
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
  await expect(card).toContainText('3 not answered yet');

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
  await expect(ines.getByRole('article', { name: 'Winter array plan' })).toContainText(
    'With the new hydrophones',
  );

  // The Mailroom holds the letter with its iTIP REQUEST.
  await ines.goto(address('/mailroom'));
  await ines.getByLabel('Find by receiver or subject').fill('Winter array plan');
  await ines.getByRole('link', { name: /mika\.sandoval.*Winter array plan/ }).click();
  await expect(
    ines.frameLocator('iframe').getByRole('heading', { name: 'Winter array plan' }),
  ).toBeVisible();
  await expect(ines.frameLocator('iframe').getByText(/Halifax time/)).toBeVisible();
  await ines.getByRole('radio', { name: 'Its calendar part' }).click();
  await expect(ines.getByText(/METHOD:REQUEST/)).toBeVisible();

  // The room shows the booking to somebody else, who may not know what it is for.
  const answered = ines.waitForResponse((one) => one.request().method() === 'POST');
  await ines.getByRole('button', { name: 'Decline' }).click();
  // Leaving before it is sent would take it along.
  expect((await answered).ok()).toBe(true);
  await ines.goto(address('/replies'));
  await expect(
    ines.getByRole('listitem').filter({ hasText: 'Winter array plan' }).first(),
  ).toContainText('1 declined');
}
