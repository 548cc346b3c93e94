import { expect, test } from '@playwright/test';
import { hindrances } from './hindrances.ts';
import { address, openAs } from './support.ts';

test('somebody outside answers by the link in their letter, in their own time, and can change it', async ({
  browser,
}) => {
  const grace = await openAs(browser, 'Grace Paul', { path: '/events/new' });
  await grace.getByLabel('Title', { exact: true }).fill('Reef drones');
  await grace.getByRole('textbox', { name: 'Day', exact: true }).fill('2027-06-15');
  await grace.getByLabel('Start', { exact: true }).fill('14');
  await grace.getByLabel('End', { exact: true }).fill('15');
  await grace
    .getByRole('combobox', { name: /Add a person, team or place/ })
    .fill('ola@drones.example');
  await grace.getByRole('option', { name: /ola@drones/ }).click();
  await grace.getByRole('button', { name: 'Send to 1 person' }).click();
  await expect(grace.getByText('“Reef drones” is sent to 1 person.').first()).toBeVisible();

  // The letter lies in the Mailroom; its button leads to a page of its own.
  await grace.goto(address('/mailroom'));
  await grace.getByLabel('Find by receiver or subject').fill('ola@drones');
  await grace.getByRole('link', { name: /ola@drones.*Reef drones/ }).click();
  const button = grace.frameLocator('iframe').getByRole('link', { name: /^Answer here/ });
  const link = new URL((await button.getAttribute('href'))!).pathname;

  const guest = await (
    await browser.newContext({ timezoneId: 'Asia/Kolkata', viewport: { width: 390, height: 844 } })
  ).newPage();
  await guest.goto(address(link));
  await expect(guest.getByRole('heading', { name: 'Reef drones' })).toBeVisible();
  await expect(guest.getByText(/ your time$/)).toBeVisible();
  const shown = await guest.getByText(/^Tuesday 15 June 2027/).textContent();
  // Wherever Grace is, Kolkata reads five and a half hours after UTC.
  const start = await guest.evaluate(async (path) => {
    const answer = await fetch(`/api${path}`);
    return ((await answer.json()) as { start: number }).start;
  }, link);
  const inKolkata = new Intl.DateTimeFormat('en-GB', {
    timeZone: 'Asia/Kolkata',
    hour: '2-digit',
    minute: '2-digit',
  }).format(start);
  expect(shown).toContain(inKolkata);
  expect(await hindrances(guest)).toEqual([]);
  const wide = await guest.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(390);

  await guest.getByLabel('Your time zone').click();
  await guest.keyboard.type('nairobi');
  await guest.keyboard.press('Enter');
  await expect(guest.getByText(/^Tuesday 15 June 2027/)).not.toContainText(inKolkata);
  // Their browser keeps the zone that they chose.
  await guest.reload();
  await expect(guest.getByLabel('Your time zone')).toContainText('Nairobi');
  await expect(guest.getByText(/^Tuesday 15 June 2027/)).not.toContainText(inKolkata);

  await grace.goto(address('/replies'));
  const row = grace.getByRole('listitem').filter({ hasText: 'Reef drones' });
  await row.getByRole('link').click();
  const answers = grace.getByRole('article', { name: 'Reef drones' });
  await expect(answers.getByRole('region', { name: 'Silent' })).toContainText('ola@drones.example');
  await guest.getByRole('radio', { name: 'Yes' }).click();
  await guest.getByRole('textbox', { name: /^A word to/ }).fill('With two batteries');
  await guest.getByRole('button', { name: 'Answer' }).click();
  await expect(guest.getByText('Grace Paul knows that you come.')).toBeVisible();
  // It is on the organizer's screen without a touch.
  const coming = answers.getByRole('region', { name: 'Coming', exact: true });
  await expect(coming).toContainText('With two batteries');
  await guest.reload();
  await guest.getByRole('radio', { name: 'No' }).click();
  await guest.getByRole('button', { name: 'Change the answer' }).click();
  await expect(guest.getByText('Grace Paul knows that you do not come.')).toBeVisible();
  await expect(answers.getByRole('region', { name: 'Not coming' })).toContainText('ola@drones');

  // Another time, picked by keys on a day of the next week; the organizer takes it with one click.
  const day = guest.getByRole('slider').nth(2);
  await day.focus();
  await day.press('ArrowRight');
  await day.press('Enter');
  await expect(guest.getByRole('list', { name: 'Times chosen' }).getByRole('button')).toHaveCount(
    1,
  );
  await guest.getByRole('textbox', { name: 'Why, if you like' }).fill('The boat is back then');
  await guest.getByRole('button', { name: 'Propose this time' }).click();
  await expect(guest.getByText('Grace Paul sees what you propose.')).toBeVisible();
  const times = answers.getByRole('region', { name: 'Other times asked for' });
  await expect(times).toContainText('The boat is back then');
  await times
    .getByRole('row', { name: /from ola/ })
    .getByRole('button', { name: /^Take it/ })
    .click();
  await expect(
    grace.getByText(/“Reef drones” is moved to .*; everybody is told/).first(),
  ).toBeVisible();
  await expect(times).toBeHidden();
  // Whoever asked for it comes.
  await expect(coming).toContainText('ola@drones');

  await guest.goto(address(`${link.slice(0, -2)}AA`));
  await expect(guest.getByText('This link does not lead to an invitation')).toBeVisible();
});
