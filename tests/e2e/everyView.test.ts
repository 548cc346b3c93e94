import { expect, test, type Locator, type Page } from '@playwright/test';
import { hindrances, inLines } from './hindrances.ts';
import { address, addToLineUp, choose, openAs } from './support.ts';

// They have nothing to do with each other, and take the longest of all.
test.describe.configure({ mode: 'parallel' });

/** Every view with something that only stands there when all of it has been read. */
const VIEWS: [path: string, shown: (page: Page) => Locator][] = [
  [
    '/',
    (page) => page.getByRole('region', { name: 'Replies you wait for' }).getByText('Desk plan'),
  ],
  ['/calendar', (page) => page.locator('[data-item]', { hasText: 'Code review' })],
  ['/calendar?view=month', (page) => page.locator('[data-item]', { hasText: 'Code review' })],
  ['/calendar?view=year', (page) => page.getByText(/^Dec\s*[1-9]\d* h$/)],
  ['/calendar?view=agenda&search=here', (page) => page.getByText('Code review')],
  ['/calendar/cancelled', (page) => page.getByText('Kept for 30 days')],
  ['/events/new', (page) => page.getByRole('toolbar', { name: 'Formatting of the description' })],
  ['/preferences', (page) => page.getByRole('heading', { name: 'Categories' })],
  ['/replies', (page) => page.getByRole('link', { name: 'Desk plan for spring' })],
  ['/replies?by=person', (page) => page.getByRole('list', { name: 'Who has not answered' })],
  ['/places', (page) => page.getByRole('button', { name: /^Cormorant Hall/ })],
  ['/places/find', (page) => page.getByRole('button', { name: /^Book .*: Gannet/ })],
  ['/places/board', (page) => page.locator('[data-lane]').first()],
  [
    '/places/ledger',
    (page) => page.getByRole('list', { name: 'Bookings' }).getByRole('listitem').first(),
  ],
  ['/people', (page) => page.getByText('Aksel Nordvik')],
  ['/mailroom', (page) => page.getByRole('heading', { name: 'Mailroom' })],
  ['/places?open=70', (page) => page.getByRole('button', { name: 'Book Prion' })],
  ['/plan', (page) => page.getByText(/^\d+ starts, best first$/)],
  ['/nowhere', (page) => page.getByRole('heading', { name: 'There is nothing at this address' })],
];

/** Goes to a view and waits until it says what it is for. */
async function show(page: Page, [path, shown]: (typeof VIEWS)[number]): Promise<void> {
  await page.goto(address(path));
  await expect(shown(page).first()).toBeVisible();
  await expect(page.getByText(/^Reading .* …$/)).toHaveCount(0);
}

const PHONE = { viewport: { width: 390, height: 844 } };

/** How high something of a calendar is says how long it lasts, which is what WCAG 2.5.8 calls essential. */
const isDrawnTime = (rule: string, html: string) =>
  rule === 'target-size' && html.includes('data-item=');

/** What axe leaves to whoever asks for it. */
const ALSO = {
  rules: {
    'target-size': { enabled: true },
    'label-content-name-mismatch': { enabled: true },
    'heading-order': { enabled: false },
  },
};

/** The header's field and that of a comment have room for several lines, and say what they find as a combobox does. */
const isSentenceField = (rule: string, html: string) =>
  rule === 'aria-allowed-role' && html.startsWith('<textarea');

/** What hinders, minor things as well, in the light look, and in the dark one as far as that makes a difference. */
async function grave(page: Page) {
  // Of a long list only what is in sight is there: its headings are in order from the top.
  const scroll = (top: number) =>
    page.evaluate((to) => {
      for (const one of document.querySelectorAll('#view, [role=dialog]'))
        one.scrollTo({ top: to });
    }, top);
  await scroll(0);
  const inOrder = await hindrances(page, 'html', { runOnly: ['heading-order'] });
  // What stays at the lower edge covers something until one is there.
  await scroll(99_999);
  const look = (theme: string) =>
    page.evaluate((name) => void (document.documentElement.dataset.theme = name), theme);
  const light = await hindrances(page, 'html', ALSO);
  await look('dark');
  const dark = await hindrances(page, 'html', { runOnly: ['color-contrast'] });
  await look('light');
  const found = [...inOrder, ...light, ...dark]
    .map((one) => ({
      ...one,
      nodes: one.nodes.filter(
        (html) => !isDrawnTime(one.id, html) && !isSentenceField(one.id, html),
      ),
    }))
    .filter((one) => one.nodes.length > 0);
  return inLines(found).map((line) => `${page.url()} ${line}`);
}

test('no view has a hindrance, light or dark', async ({ browser }) => {
  // Looking through every view takes longer than a journey does.
  test.setTimeout(900_000);
  const page = await openAs(browser, 'Ines Aldabe');
  const found: string[] = [];
  for (const view of VIEWS) {
    await show(page, view);
    found.push(...(await grave(page)));
  }
  await page.goto(address('/'));
  await page
    .getByRole('region', { name: /Waits for your answer/ })
    .getByRole('link', { name: 'Array deployment plan' })
    .click();
  // On Today there is one beside each invitation.
  await expect(page.getByRole('heading', { name: 'Your day around it' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Accept' })).toBeVisible();
  found.push(...(await grave(page)));
  await page.goto(address('/plan'));
  await addToLineUp(page, 'mika', 'Mika Sandoval');
  await page.getByRole('region', { name: 'Openings' }).getByRole('button').first().click();
  await expect(page.getByRole('img', { name: /^Mika Sandoval/ })).toBeVisible();
  found.push(...(await grave(page)));
  expect(found).toEqual([]);
});

test('no sheet of a phone has a hindrance, light or dark', async ({ browser }) => {
  test.setTimeout(600_000);
  const page = await openAs(browser, 'Clara Weiss', {
    ...PHONE,
    hasTouch: true,
  });
  const found: string[] = [];
  const sheet = page.getByRole('dialog');
  const look = async (at: Locator) => {
    await expect(at).toBeVisible();
    found.push(...(await grave(page)));
    await page.keyboard.press('Escape');
    await expect(sheet).toBeHidden();
  };
  await page.goto(address('/calendar'));
  await page.getByRole('button', { name: 'What is shown, and how' }).click();
  await look(sheet.getByLabel('Go to a day'));
  await page.getByRole('button', { name: 'New event', exact: true }).click();
  await look(sheet.getByRole('button', { name: 'Save to my calendar' }));
  await page.locator('[data-item^="m"]').first().click();
  await look(sheet.getByRole('link', { name: 'All its details' }));
  await page.goto(address('/plan'));
  await page.getByRole('button', { name: /^1 person/ }).click();
  await look(sheet.getByPlaceholder('Add a person, team or place'));
  await page.goto(address('/places?open=70'));
  await look(sheet.getByRole('button', { name: 'Book Prion' }));
  await page.getByRole('button', { name: /^What is new/ }).click();
  await look(sheet.getByRole('heading', { name: 'What is new' }));
  expect(found).toEqual([]);
});

test('no panel, form or dialog has a hindrance, light or dark', async ({ browser }) => {
  test.setTimeout(600_000);
  const page = await openAs(browser, 'Clara Weiss');
  const found: string[] = [];
  const look = async (at: Locator) => {
    await expect(at).toBeVisible();
    found.push(...(await grave(page)));
  };
  const panel = page.getByRole('dialog');
  const title = 'Dip log, aired';
  const item = page.locator('[data-item]', { hasText: title }).first();

  await page.keyboard.press('?');
  await look(page.getByRole('dialog', { name: 'Keys' }));
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Clara', exact: true }).click();
  await look(page.getByRole('menuitem', { name: 'Sign out' }));
  await page.keyboard.press('Escape');

  // The quick form, its refusals, and the series editor.
  await page.goto(address('/calendar?view=month&date=2027-11-01'));
  await page.getByRole('button', { name: 'New event', exact: true }).click();
  await panel.getByLabel('Start', { exact: true }).fill('soonish');
  await panel.getByRole('button', { name: 'Save to my calendar' }).click();
  await look(panel.getByText('type a time such as 10:45, 1045 or 10:45am'));
  await panel.getByLabel('Title').fill(title);
  await panel.getByLabel('Day', { exact: true }).fill('2027-11-02');
  await panel.getByLabel('Start', { exact: true }).fill('9');
  await panel.getByLabel('End', { exact: true }).fill('9.45');
  await panel.getByRole('button', { name: 'Repeat it' }).click();
  await choose(panel.getByLabel('Ends'), 'after a number of dates');
  await panel.getByLabel('How many times').fill('3');
  await look(panel.getByRole('button', { name: 'Tue 16 Nov' }));
  await choose(panel.getByLabel('Repeats', { exact: true }), 'by months');
  await look(panel.getByLabel('On which day'));
  await choose(panel.getByLabel('Ends'), 'on a day');
  await look(panel.getByLabel('Last date on or before'));
  await panel.getByRole('button', { name: 'Save to my calendar' }).click();

  // The event beside the calendar, changed, and cancelled with the question what is meant.
  await item.click();
  await look(panel.getByRole('button', { name: 'Cancel it' }));
  await panel.getByRole('button', { name: 'Change' }).click();
  await look(panel.getByLabel('The whole series'));
  await page.keyboard.press('Escape');
  await item.click();
  await panel.getByRole('button', { name: 'Cancel it' }).click();
  const question = page.getByRole('alertdialog', { name: `Cancel “${title}”` });
  await look(question.getByLabel('The whole series'));
  await question.getByLabel('The whole series').check();
  await question.getByRole('button', { name: 'Cancel it' }).click();
  await expect(item).toHaveCount(0);

  // Back again, with the question in the list of what was cancelled.
  await page.goto(address('/calendar/cancelled'));
  await look(page.getByText(title));

  // All the details of an event, with the editor of its text.
  await page.goto(address('/events/new'));
  await look(page.getByRole('toolbar', { name: 'Formatting of the description' }));
  await page.context().close();

  // What touches others asks whom to tell.
  const organizer = await openAs(browser, 'Ines Aldabe', { path: '/calendar' });
  await organizer.locator('[data-item]', { hasText: 'Hiring workshop' }).last().click();
  await organizer.getByRole('button', { name: 'Cancel it' }).click();
  await expect(organizer.getByLabel('Message to them')).toBeVisible();
  found.push(...(await grave(organizer)));
  expect(found).toEqual([]);
});

test('the sign-in has no hindrance, and tells a wrong password and no more', async ({ page }) => {
  await page.goto(address());
  await expect(page.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
  expect(await grave(page)).toEqual([]);
  await page.getByLabel('Mail address').fill('ines.aldabe@ternrock.example');
  await page.getByLabel('Password').fill('guess');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByText('Address or password is wrong.')).toBeVisible();
  await page.getByLabel('Password').fill('tern-rock');
  await page.getByLabel('Password').press('Enter');
  await expect(page.getByRole('heading', { name: /24 November 2026/ })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { name: /24 November 2026/ })).toBeVisible();
  await page.getByRole('button', { name: 'Ines', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
});

test('nothing runs off the side of a phone, of 320 pixels, of a desk at twice the size', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', PHONE);
  for (const view of VIEWS) {
    await page.setViewportSize(PHONE.viewport);
    await show(page, view);
    for (const viewport of [
      PHONE.viewport,
      { width: 320, height: 640 },
      { width: 640, height: 400 },
    ]) {
      await page.setViewportSize(viewport);
      // What is drawn for the new size has been, in two frames.
      const [inside, wide] = await page.evaluate(async () => {
        for (let frame = 0; frame < 2; frame++)
          await new Promise((resolve) => requestAnimationFrame(resolve));
        const main = document.querySelector('#view')!;
        return [main.clientWidth, Math.max(main.scrollWidth, document.documentElement.scrollWidth)];
      });
      expect.soft(wide, `${view[0]} at ${viewport.width}`).toBeLessThanOrEqual(inside!);
    }
  }
});

test('everything is reached by keys: the field, the list of keys, a view', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('/');
  await page.keyboard.type('gannet');
  await expect(page.locator('[cmdk-item]', { hasText: 'Gannet' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Gannet' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page).not.toHaveURL(/open=/);
});

test('pages load without a complaint of the content security policy', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe');
  const complaints: string[] = [];
  page.on('console', (message) => message.type() === 'error' && complaints.push(message.text()));
  page.on('pageerror', (error) => complaints.push(error.message));
  // An unknown address is answered 404, of which the browser complains by itself.
  for (const view of VIEWS.filter(([path]) => path !== '/nowhere')) await show(page, view);
  expect(complaints).toEqual([]);
});

test('on a phone what is listed is hit by a thumb: 44 pixels and more', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe', { ...PHONE, hasTouch: true, isMobile: true });
  /** What lies 20 px above, below and beside the middle of each still belongs to it. */
  const missed = (selector: string) =>
    page.evaluate((asked) => {
      const all = [...document.querySelectorAll<HTMLElement>(asked)];
      return all.flatMap((one) => {
        one.scrollIntoView({ block: 'center' });
        const box = one.getBoundingClientRect();
        const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
        const isHit = [0, -20, 20].every((by) => {
          const hit = document.elementFromPoint(x, y + by);
          return hit !== null && (one.contains(hit) || hit.closest('label')?.contains(one));
        });
        return isHit ? [] : [`${one.textContent} ${one.getAttribute('aria-label') ?? ''}`];
      });
    }, selector);
  for (const [path, selector] of [
    ['/', 'main section li a.reach, main section button'],
    ['/replies', '#view li a'],
    ['/people', '#view li a[href*="plan"]'],
    ['/places', '#view li button'],
    ['/plan?with=2,24', '#view section[aria-label=Openings] button'],
  ] as const) {
    await page.goto(address(path));
    await expect(page.locator(selector).first()).toBeVisible();
    expect.soft(await missed(selector), path).toEqual([]);
  }
  // A day of a month answers wherever nothing else stands.
  await page.goto(address('/calendar?view=month'));
  const cell = page.locator('[data-date="2026-11-14"]');
  const box = (await cell.boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height - 8);
  await expect(page).toHaveURL(/view=day.*date=2026-11-14|date=2026-11-14.*view=day/);
});
