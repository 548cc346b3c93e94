import { expect, test } from '@playwright/test';
import { eventsNamed, makeEvent, openAs } from './support.ts';

/* Names and sentences as hurried people type and paste them. */

test('nobody is added by Enter in an empty field, and all of a list are', async ({ browser }) => {
  const page = await openAs(browser, 'Ines', { path: '/events/new' });
  const field = page.getByPlaceholder('Add a person, team or place');
  const rows = page.getByRole('button', { name: /^Leave .* out$/ });
  await field.click();
  // There are people to be offered.
  await expect(page.getByText('Met lately')).toBeVisible();
  await field.press('Enter');
  await expect(field).toBeFocused();
  await expect(rows).toHaveCount(0);

  await field.fill('Tomas, Leila');
  await field.press('Enter');
  await expect(page.getByRole('button', { name: 'Leave Tomas Okafor out' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Leave Leila Haddad out' })).toBeVisible();
  await expect(rows).toHaveCount(2);
  await expect(field).toHaveValue('');

  // Lines with a bullet, a title, an address, a slip of the hand, and two that are nobody's.
  await field.focus();
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.setData('text', text);
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, '- Dr Mika Sandoval (chair)\nOkafor, Tomas\nJon Skau <jon@skau.example>\nLeilla Hadad\nZebulon Quux\nnobody.here@ternrock.example');
  await expect(page.getByRole('button', { name: 'Leave Mika Sandoval out' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Leave jon@skau.example out' })).toBeVisible();
  const doubts = page.getByRole('list', { name: '3 names to look at' });
  await expect(doubts.getByRole('listitem')).toHaveCount(3);
  // Leila is there already; whoever was meant is said once more all the same.
  await expect(doubts.getByRole('button', { name: 'Leila Haddad' })).toBeVisible();
  await expect(doubts.getByText('is an address that nobody here has')).toBeVisible();
  await page.getByRole('button', { name: 'Leave out Zebulon Quux' }).click();
  await page.getByRole('button', { name: 'Write to it all the same' }).click();
  await expect(page.getByRole('button', { name: /Leave nobody.here@/ })).toBeVisible();
  await expect(page.getByRole('list', { name: '1 name to look at' })).toBeVisible();
});

test('what is highlighted in the header stays so while names arrive', async ({ browser }) => {
  const page = await openAs(browser, 'Ines');
  await page.route('**/api/search?*', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1_500));
    await route.continue();
  });
  const field = page.getByPlaceholder(/^Find, or say it/);
  const highlighted = page.locator('[cmdk-item][data-selected="true"]');
  const answered = page.waitForResponse((answer) => answer.url().includes('/api/search?'));
  await field.pressSequentially('kelp review Thu 14:00');
  await expect(highlighted).toHaveText(/Plan this/);
  await answered;
  await page.waitForTimeout(300);
  await expect(highlighted).toHaveText(/Plan this/);
  await field.press('Enter');
  await expect(page).toHaveURL(/\/plan\?.*at=/);
});

test('a sentence says what it guessed, and what it did not understand goes along', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines');
  const field = page.getByPlaceholder(/^Find, or say it/);
  await field.fill('winch with Tomas on Thursday at 4 31 Feb');
  const understood = page.getByRole('list', { name: 'Understood' });
  await expect(understood.getByText('31 Feb, there is no such day')).toBeVisible();
  await expect(understood.getByText('16:00')).toBeVisible();
  await understood.getByRole('button', { name: 'Not 16:00 but 04:00' }).click();
  await expect(understood.getByRole('button', { name: 'Not 04:00 but 16:00' })).toBeVisible();
  await understood.getByRole('button', { name: 'Not 04:00 but 16:00' }).click();
  await field.press('Enter');
  await expect(page.getByText('not understood: 31 Feb')).toBeVisible();
  await expect(page.getByLabel('Start')).toHaveValue('16:00');
  await page.getByRole('button', { name: 'Leave out 31 Feb' }).click();
  await expect(page.getByText('not understood: 31 Feb')).toBeHidden();
  await expect(page).not.toHaveURL(/unread=/);
});

test('book, move and cancel lead to what they name, and ask before they act', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines');
  const times = {
    startsAt: '2027-01-14T10:00',
    endsAt: '2027-01-14T10:45',
    zone: 'Europe/Oslo',
  };
  await makeEvent(page, { title: 'Anchor chain', times });
  const field = page.getByPlaceholder(/^Find, or say it/);
  const row = (name: RegExp) => page.getByRole('option', { name });

  await field.fill('move anchor chain to 15 January 2027 14:00');
  await row(/Move Anchor chain/).click();
  await expect(page.getByText(/A new time for it/)).toBeVisible();
  await expect(page.getByLabel('Start')).toHaveValue('14:00');

  await field.fill('cancel anchor chain');
  await row(/Cancel Anchor chain/).click();
  await expect(page.getByRole('heading', { name: 'Anchor chain' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Cancel it' })).toBeVisible();
  expect(await eventsNamed(page, 'Anchor chain')).toHaveLength(1);

  await field.fill('cancel something that is not there');
  await expect(page.getByText('You organize nothing to come that is called')).toBeVisible();

  await field.fill('book puffin on 15 January 2027 at 10 for 45m');
  await row(/Book Puffin/).click();
  await expect(page).toHaveURL(/\/events\/new/);
  await expect(page.getByRole('button', { name: 'Leave Puffin out' })).toBeVisible();
});
