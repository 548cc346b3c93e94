import { expect, test } from '@playwright/test';
import { hindrances, isGrave } from './hindrances.ts';
import { address, openAs } from './support.ts';

/* People, teams, sites, files and the log, as whoever administers them uses them. */

test('every part of the administration can be read and used by everybody, also on a phone', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Aksel Nordvik');
  for (const width of [1280, 390]) {
    await page.setViewportSize({ width, height: 844 });
    for (const [path, shows] of [
      ['/administration', 'Alinta Ross'],
      ['/administration/teams', 'Kelp Forests'],
      ['/administration/sites', 'Skerry House'],
      ['/administration/log', 'What was done to'],
      ['/administration/signing-in', 'Accounts kept by the directory'],
      ['/administration/health', 'PostgreSQL'],
      ['/administration/start/people', 'Who works here?'],
      ['/administration/start/places', 'What do you share?'],
    ] as const) {
      await page.goto(address(path));
      await expect(page.getByText(shows).first()).toBeVisible();
      expect([path, width, (await hindrances(page)).filter(isGrave)]).toEqual([path, width, []]);
      const tooWide = await page.evaluate(
        () => document.documentElement.scrollWidth > document.documentElement.clientWidth,
      );
      expect([path, width, tooWide]).toEqual([path, width, false]);
    }
  }
});

test('whoever does not administer is told so, and sees nobody', async ({ browser }) => {
  const page = await openAs(browser, 'Hal Teague');
  for (const path of ['/administration', '/administration/log', '/administration/start']) {
    await page.goto(address(path));
    await expect(page.getByText('Only administrators come in here')).toBeVisible();
    await expect(page.getByText('Alinta Ross')).toHaveCount(0);
  }
});

test('a file is looked at, its columns settled by hand, done and taken back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Aksel Nordvik');
  await page.goto(address('/administration'));
  await page.getByRole('button', { name: 'From a file' }).click();
  const panel = page.getByRole('dialog', { name: 'People from a file' });
  await panel.locator('input[type=file]').setInputFiles({
    name: 'people.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'Who,E-mail,Office\nFarida Osman,farida.osman@ternrock.example,Bergen\n' +
        'Grace Paul,grace.paul@ternrock.example,Skerry House\nNobody,not an address,\n',
    ),
  });
  await expect(panel.getByText('1 new')).toBeVisible();
  // "Who" is nobody's heading: said by hand, it is the name.
  await panel.getByRole('combobox', { name: 'What “Who” says' }).click();
  await page.getByRole('option', { name: 'the name' }).click();
  await expect(panel.getByText('Farida Osman')).toBeVisible();
  await expect(panel.getByText('1 changed')).toBeVisible();
  await expect(panel.getByText('1 line cannot be read')).toBeVisible();
  await panel.getByRole('button', { name: 'Do it for 2 people' }).click();
  await expect(page.getByText('1 person added, 1 changed.', { exact: true })).toBeVisible();
  await page.getByRole('searchbox', { name: 'Name, address, work or team' }).fill('farida');
  await expect(page.getByRole('button', { name: 'Farida Osman' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Nobody matches “farida”')).toBeVisible();
});

test('several people are changed at once, one loses access, and the log takes it back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Aksel Nordvik');
  await page.goto(address('/administration?q=declan'));
  await page.getByRole('checkbox', { name: 'Choose Declan Murphy' }).check();
  const bar = page.getByRole('group', { name: 'Those who are chosen' });
  await bar.getByRole('combobox', { name: 'Their role' }).click();
  await page.getByRole('option', { name: 'steward', exact: true }).click();
  await expect(page.getByText('Declan Murphy changed.', { exact: true })).toBeVisible();
  const { context, page: declan } = await inOf(browser);
  await expect(declan.getByRole('button', { name: 'Declan', exact: true })).toBeVisible();
  await bar.getByRole('button', { name: 'End their access' }).click();
  await expect(
    page.getByText('Declan Murphy has no access any more.', { exact: true }),
  ).toBeVisible();
  // Their own window is told at once, without anything being pressed.
  await expect(declan.getByText(/signed out|Sign in/i).first()).toBeVisible({ timeout: 10_000 });
  await context.close();
  await page.goto(address('/administration/log?what=person'));
  const entry = page.getByRole('listitem').filter({ hasText: 'Declan Murphy' });
  await expect(entry.first()).toContainText('ended their access');
  await entry
    .first()
    .getByRole('button', { name: /^Take back/ })
    .click();
  await expect(entry.first()).toContainText('let them sign in again');
  await entry
    .filter({ hasText: 'steward' })
    .getByRole('button', { name: /^Take back/ })
    .click();
  await expect(entry.first()).toContainText('role steward → staff');
});

async function inOf(browser: Parameters<typeof openAs>[0]) {
  const page = await openAs(browser, 'Declan Murphy');
  return { context: page.context(), page };
}

test('a forgotten password is asked for by keys alone, and answered the same for anybody', async ({
  page,
}) => {
  await page.goto(address('/'));
  const ask = page.getByRole('button', { name: 'I forgot my password' });
  await ask.focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('nobody@nowhere.example');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status')).toContainText(
    'If somebody signs in here as nobody@nowhere.example',
  );
});
