import { expect, test, type Locator, type Page } from '@playwright/test';
import { address, idOf, makeEvent, openAs } from './support.ts';

/** Works a page by keys alone and counts the Tabs that it takes. */
class Keys {
  tabs = 0;
  private readonly page: Page;

  constructor(page: Page) {
    this.page = page;
  }

  async press(...names: string[]): Promise<void> {
    for (const name of names) await this.page.keyboard.press(name);
  }

  async type(text: string): Promise<void> {
    await this.page.keyboard.type(text, { delay: 20 });
  }

  /** From the top of a page past the ways to its view. */
  async skip(): Promise<void> {
    await this.reach(this.page.getByRole('link', { name: 'Skip to the view' }), 1);
    await this.press('Enter');
  }

  /** Goes on with Tab until something has the focus; at most so many times. */
  async reach(wanted: Locator, most: number): Promise<void> {
    await expect(wanted).toBeVisible();
    let pressed = 0;
    while (!(await wanted.evaluate((element) => element === document.activeElement))) {
      if (pressed >= most) {
        const focused = await this.page.evaluate(() =>
          document.activeElement?.outerHTML.slice(0, 200),
        );
        throw new Error(
          `${String(wanted)} is not reached by ${most} Tabs; the focus is on ${focused}`,
        );
      }
      await this.press('Tab');
      pressed += 1;
    }
    this.tabs += pressed;
  }
}

test('by keys a meeting is made and sent in 10 Tabs, answered in 30, cancelled in 10', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe');
  const keys = new Keys(page);
  await page.goto(address('/events/new'));
  await expect(page.getByLabel('Title')).toBeFocused();
  await keys.type('Kelp by keys');
  await keys.reach(page.getByRole('textbox', { name: 'Day', exact: true }), 1);
  await keys.type('22 June 2027');
  await keys.reach(page.getByRole('combobox', { name: /Add a person, team or place/ }), 8);
  await keys.type('aksel nor');
  await expect(page.getByRole('option', { name: /Aksel Nordvik/ })).toBeVisible();
  await keys.press('Enter');
  await expect(page.getByRole('listitem').filter({ hasText: 'Aksel Nordvik' })).toBeVisible();
  await keys.press('Control+Enter');
  await expect(page.getByText('“Kelp by keys” is sent to 1 person.').first()).toBeVisible();
  expect(keys.tabs).toBeLessThanOrEqual(10);

  const aksel = await openAs(browser, 'Aksel Nordvik');
  const his = new Keys(aksel);
  const accept = aksel
    .getByRole('region', { name: 'Waits for your answer' })
    .getByRole('listitem')
    .filter({ hasText: 'Kelp by keys' })
    .getByRole('button', { name: /^Accept/ });
  await expect(accept).toBeVisible();
  await his.skip();
  await his.reach(accept, 30);
  await his.press('Enter');
  await expect(accept).toHaveCount(0);
  expect(his.tabs).toBeLessThanOrEqual(30);

  // The meeting stands open beside the calendar; it is cancelled there, and told. What said that it was
  // sent is gone by then.
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveCount(0);
  const before = keys.tabs;
  await keys.reach(page.getByRole('button', { name: 'Cancel it' }), 6);
  await keys.press('Enter');
  await expect(page.getByRole('alertdialog')).toBeVisible();
  await keys.reach(page.getByRole('button', { name: 'Cancel it and tell 1 person' }), 5);
  await keys.press('Enter');
  await expect(page.getByText('“Kelp by keys” is cancelled.').first()).toBeVisible();
  expect(keys.tabs - before).toBeLessThanOrEqual(10);
});

test('by keys a meeting is planned and sent in 18 Tabs, its title five from the top of Plan', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/plan' });
  const keys = new Keys(page);
  const openings = page.getByRole('region', { name: 'Openings' });
  await expect(openings.getByRole('button').first()).toBeVisible();
  await keys.skip();
  await keys.reach(page.getByLabel('Title of the meeting'), 4);
  expect(keys.tabs).toBeLessThanOrEqual(5);
  await keys.type('Planned by keys');
  await keys.reach(page.getByPlaceholder('Add a person, team or place'), 12);
  await keys.type('mika sand');
  await expect(page.getByRole('option', { name: /Mika Sandoval/ })).toBeVisible();
  await keys.press('Enter');
  await expect(page.getByRole('region', { name: 'Line-up' }).getByText('Mika')).toBeVisible();
  // The wishes follow, then the openings, of which n takes the next from wherever the focus is.
  await expect(openings).toContainText('all 2 free');
  await keys.press('Tab');
  await keys.press('n');
  const send = page.getByRole('button', { name: /^Send to 1 person/ });
  await expect(send).toBeEnabled();
  await keys.press('Control+Enter');
  await expect(page).toHaveURL(/\/replies/);
  expect(keys.tabs).toBeLessThanOrEqual(18);
});

test('by keys a place is found, booked and given back, in 10 Tabs', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/places' });
  const keys = new Keys(page);
  const search = page.getByRole('searchbox', { name: 'Name, site or feature' });
  await expect(search).toBeVisible();
  await keys.skip();
  await keys.reach(search, 5);
  // Rooms are shown first; a kit is none of them.
  await keys.type('sonar');
  await expect(
    page.getByRole('button', { name: 'look among everything at every site' }),
  ).toBeVisible();
  await keys.press('Enter');
  const place = page.getByRole('button', { name: /^Sonar kit/ });
  await expect(page.getByRole('button', { name: /^Fulmar/ })).toHaveCount(0);
  await keys.reach(place, 1);
  await keys.press('Enter');
  const title = page.getByRole('textbox', { name: 'What for, if you like' });
  await keys.reach(title, 4);
  await keys.type('Booked by keys');
  await keys.press('Tab');
  await keys.type('23 June 2027');
  await keys.press('Control+Enter');
  await expect(page.getByText(/Sonar kit is yours/).first()).toBeVisible();
  const booked = page.getByRole('region', { name: 'Its day' }).getByText('Booked by keys');
  await expect(booked).toBeVisible();
  await page.getByRole('button', { name: /^Book/ }).focus();
  await keys.press('Control+z');
  await expect(booked).toHaveCount(0);
  expect(keys.tabs).toBeLessThanOrEqual(10);
});

test('by keys the focus never falls to the page: it goes to what took the place of what had it', async ({
  browser,
}) => {
  const guest = await openAs(browser, 'Clara Weiss');
  const host = await openAs(browser, 'Idris Kaya');
  const clara = await idOf(host, 'Clara Weiss');
  const meeting = (title: string, hour: number) =>
    makeEvent(host, {
      title,
      times: {
        startsAt: `2026-11-26T${hour}:00`,
        endsAt: `2026-11-26T${hour}:30`,
        zone: 'Europe/Oslo',
      },
      attendees: [{ personId: clara, role: 'required' }],
      send: true,
    });
  await meeting('Keys first', 10);
  await meeting('Keys second', 12);
  const focus = (page: Page) =>
    page.evaluate(() => {
      const at = document.activeElement;
      return at === document.body
        ? 'the page'
        : (at?.closest('[role=group]')?.ariaLabel ?? at?.textContent ?? '');
    });
  const answer = (title: string) =>
    guest.getByRole('group', { name: `Answer ${title}` }).getByRole('button', { name: 'Decline' });
  await guest.goto(address('/'));
  await answer('Keys first').focus();
  await guest.keyboard.press('Enter');
  await expect(answer('Keys first')).toHaveCount(0);
  await expect.poll(() => focus(guest)).not.toBe('the page');

  // A question has the keys as soon as it is asked, and gives them back.
  await host.goto(address('/calendar?date=2026-11-26'));
  const item = host.getByRole('button', { name: /Keys second/ }).first();
  await item.focus();
  await host.keyboard.press('Enter');
  const panel = host.getByRole('dialog').first();
  await panel.getByRole('button', { name: /^Cancel/ }).focus();
  await host.keyboard.press('Enter');
  const question = host.getByRole('alertdialog');
  await expect(question).toBeVisible();
  await expect
    .poll(() => question.evaluate((dialog) => dialog.contains(document.activeElement)))
    .toBe(true);
  await host.keyboard.press('Escape');
  await expect(question).toHaveCount(0);
  await expect.poll(() => focus(host)).not.toBe('the page');
});

/** Whether something has the keys, some moments after an act, too, when what came of it is there. */
async function expectKeysSomewhere(page: Page, after: string): Promise<void> {
  const isOnPage = () =>
    page.evaluate(() => document.activeElement === document.body || !document.activeElement);
  await expect.poll(isOnPage, { message: after }).toBe(false);
  await page.waitForTimeout(300);
  await expect.poll(isOnPage, { message: after }).toBe(false);
}

test('by keys a meeting is moved and its people told in 8 Tabs', async ({ browser }) => {
  const host = await openAs(browser, 'Idris Kaya');
  await makeEvent(host, {
    title: 'Keys moved',
    times: { startsAt: '2026-12-08T10:00', endsAt: '2026-12-08T10:30', zone: 'Europe/Oslo' },
    attendees: [{ personId: await idOf(host, 'Clara Weiss'), role: 'required' }],
    send: true,
  });
  await host.goto(address('/calendar?date=2026-12-08'));
  const item = host.locator('[data-day] [data-item]', { hasText: 'Keys moved' });
  await item.focus();
  const keys = new Keys(host);
  await keys.press('Space', 'ArrowDown', 'ArrowDown', 'Enter');
  await keys.reach(host.getByRole('button', { name: /^Move it and tell/ }), 8);
  await keys.press('Enter');
  await expect(host.getByText(/“Keys moved” is now/).first()).toBeVisible();
  await expectKeysSomewhere(host, 'moving');
});

test('by keys every act leaves the focus where one can go on', async ({ browser }) => {
  const host = await openAs(browser, 'Ines Aldabe');
  const press = async (button: Locator, what: string) => {
    await button.focus();
    await host.keyboard.press('Enter');
    await expectKeysSomewhere(host, what);
  };
  await host.goto(address('/replies'));
  await host
    .getByRole('link', { name: /Hiring workshop/ })
    .first()
    .click();
  await press(host.getByRole('button', { name: /^nudge/i }).first(), 'nudging');

  await host.goto(address('/events/new'));
  await host.getByLabel('Title', { exact: true }).fill('Keys kept');
  await press(host.getByRole('button', { name: /Puffin/ }).first(), 'a room');
  await press(host.getByRole('button', { name: /^Repeat it/ }), 'repeating');
  await press(host.getByRole('button', { name: /^Agenda/ }), 'an agenda');
  await press(host.getByRole('button', { name: 'Leave Puffin out' }), 'a room less');
  await host.goto(address('/'));
  await host.goto(address('/events/new'));
  await press(host.getByRole('button', { name: /^Start afresh|^Throw away/ }).first(), 'afresh');

  await host.goto(address('/calendar?date=2026-12-09'));
  await press(host.getByRole('button', { name: 'New event', exact: true }), 'a new event');
  await host.keyboard.press('Escape');
  await expectKeysSomewhere(host, 'closing');
  await press(host.getByRole('button', { name: 'Later', exact: true }), 'a week on');

  await host.keyboard.press('/');
  await host.keyboard.type('kelp review with Leila');
  await expect(host.getByRole('list', { name: 'Understood' })).toBeVisible();
  await host.keyboard.press('Enter');
  await expect(host).toHaveURL(/\/plan/);
  await expectKeysSomewhere(host, 'a sentence');
});
