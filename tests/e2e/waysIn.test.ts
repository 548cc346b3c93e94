import { expect, test } from '@playwright/test';
import { hindrances, isGrave } from './hindrances.ts';
import { address, openAs } from './support.ts';

/* Coming in by other ways than a password, and leaving with all that one had. */

test('by the organization’s own sign-in, back to where one wanted to go, and out of both', async ({
  browser,
}) => {
  const page = await (await browser.newContext()).newPage();
  await page.goto(address('/places'));
  await page.getByRole('button', { name: 'Sign in by Tern Rock sign-in' }).click();
  await page
    .getByLabel('Who are you?')
    .selectOption({ label: 'Hal Teague, hal.teague@ternrock.example' });
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page).toHaveURL(address('/places'));
  await page.getByRole('button', { name: 'Hal', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  // Its provider asks, as such programs do, whether one leaves there, too.
  await page.getByRole('button', { name: /sign me out/i }).click();
  await expect(page.getByLabel('Password')).toBeVisible();
  // Who is unknown here is told so, and what to do.
  await page.getByRole('button', { name: 'Sign in by Tern Rock sign-in' }).click();
  await page.getByLabel('Who are you?').selectOption('newcomer');
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByRole('alert')).toContainText('Nobody here has your address');
  expect((await hindrances(page)).filter(isGrave)).toEqual([]);
});

test('with a passkey that a device keeps, added by name and removed again', async ({ browser }) => {
  const page = await openAs(browser, 'Mika Sandoval');
  const device = await page.context().newCDPSession(page);
  await device.send('WebAuthn.enable');
  await device.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      ...{ protocol: 'ctap2', transport: 'internal', hasResidentKey: true },
      ...{ hasUserVerification: true, isUserVerified: true },
    },
  });
  await page.goto(address('/preferences'));
  await page.getByLabel('What the device is called').fill('Work laptop');
  await page.getByRole('button', { name: 'Add a passkey' }).click();
  const keys = page.getByRole('list', { name: 'Passkeys' });
  await expect(keys.getByText('Work laptop')).toBeVisible();
  expect((await hindrances(page)).filter(isGrave)).toEqual([]);
  await page.getByRole('button', { name: 'Mika', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
  await expect(page.getByRole('navigation').first()).toBeVisible();
  await page.goto(address('/preferences'));
  await expect(keys.getByText(/last used/)).toBeVisible();
  await keys.getByRole('button', { name: 'Remove Work laptop' }).click();
  await expect(keys).toHaveCount(0);
});

test('somebody leaves: what they have goes to a colleague, and comes back with undo', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Aksel Nordvik');
  await page.goto(address('/administration?q=Robine'));
  await page.getByRole('button', { name: /Robine Thys/ }).click();
  const panel = page.getByRole('dialog', { name: 'Robine Thys' });
  await panel.getByRole('button', { name: 'They leave…' }).click();
  await expect(panel.getByText(/meetings? to come/)).toBeVisible();
  const act = panel.getByRole('button', { name: 'Let Robine Thys leave' });
  // Every meeting needs an answer before anything is done.
  await expect(act).toBeDisabled();
  await panel.getByRole('combobox', { name: /Hand over/ }).fill('Tomas');
  await page.getByRole('option', { name: /Tomas Okafor/ }).click();
  await expect(panel.getByText(/free for/)).toBeVisible();
  await panel.getByRole('button', { name: 'See them one by one' }).click();
  expect((await hindrances(page)).filter(isGrave)).toEqual([]);
  await act.click();
  await expect(page.getByText(/^Robine Thys has left: \d+ handed over/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: /Robine Thys/ })).toBeVisible();
});
