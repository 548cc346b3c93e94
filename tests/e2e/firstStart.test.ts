import { expect, test } from '@playwright/test';
import { TEST_NOW } from '../support/cluster.ts';
import { freePort } from '../support/port.ts';
import { hindrances, isGrave } from './hindrances.ts';
import { startMarmot, withEmptyDatabase } from './startedMarmot.ts';
import { choose } from './support.ts';

const ADMIN = process.env.MARMOT_TEST_CLUSTER!;
const DATABASE = 'marmot_first_start';

test('an empty database of one’s own begins with an administrator and nobody else', async ({
  page,
}) => {
  test.setTimeout(400_000);
  await withEmptyDatabase(DATABASE, async (url) => {
    const port = String(await freePort());
    const env = {
      MARMOT_DATABASE_URL: url,
      HOST: '0.0.0.0',
      PORT: port,
    };
    const server = startMarmot(env, /\/welcome#\S+\n/);
    try {
      const said = await server.ready;
      expect(said).not.toMatch(/tern-rock|@ternrock/);
      const link = /http\S+\/welcome#\S+/.exec(said)![0];

      // Whoever comes without the link is shown nobody, and cannot begin.
      await page.goto(`http://localhost:${port}/`);
      await expect(page.getByText('Nobody can sign in here yet')).toBeVisible();
      await expect(page.getByText('The demonstration’s people')).toHaveCount(0);
      await page.goto(`http://localhost:${port}/welcome#made-up`);
      const fill = async (password: string) => {
        await page.getByLabel('Organization').fill('Skua Trust');
        await page.getByLabel('City of its first site').fill('Bergen');
        await choose(page.getByLabel('Time zone'), 'Europe/Oslo');
        await page.getByLabel('Your name').fill('Vilde Moe');
        await page.getByLabel('Mail address').fill('vilde.moe@skua.example');
        await page.getByLabel('Password').fill(password);
        await page.getByRole('button', { name: 'Create and sign in' }).click();
      };
      await fill('long enough to count');
      await expect(page.getByText('This link is not valid any more')).toBeVisible();

      await page.goto('about:blank');
      await page.goto(link);
      expect((await hindrances(page)).filter(isGrave)).toEqual([]);
      await fill('short');
      await expect(page.getByText('must have at least 10 characters')).toBeVisible();
      await page.getByLabel('Password').fill('long enough to count');
      await page.getByRole('button', { name: 'Create and sign in' }).click();
      await expect(page.getByRole('heading', { name: 'Skua Trust' })).toBeVisible();
      await page.getByRole('button', { name: 'Vilde', exact: true }).click();
      await page.getByRole('menuitem', { name: 'Sign out' }).click();

      // The link was good once; the password is good from now on.
      await expect(page.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
      await expect(page.getByText('Nobody can sign in here yet')).toHaveCount(0);
      const again = await page.request.post(`http://localhost:${port}/api/setup`, {
        data: {
          token: link.split('#')[1],
          organization: 'Other',
          city: 'Oslo',
          zone: 'Europe/Oslo',
          name: 'Thief',
          email: 'thief@elsewhere.example',
          password: 'long enough to count',
        },
      });
      expect(again.status()).toBe(403);
      await page.getByLabel('Mail address').fill('vilde.moe@skua.example');
      await page.getByLabel('Password').fill('long enough to count');
      await page.getByRole('button', { name: 'Sign in', exact: true }).click();
      await expect(page.getByRole('button', { name: 'Vilde', exact: true })).toBeVisible();
    } finally {
      await server.end();
    }
  });
});

test('the demonstration is not shown beyond this machine unless that is confirmed', async () => {
  test.setTimeout(300_000);
  const env = {
    MARMOT_DATABASE_URL: ADMIN.replace(/\/postgres$/, '/marmot_e2e'),
    // It works on what the other tests see, and so at their moment: days ahead, it would do theirs too.
    MARMOT_NOW: TEST_NOW,
    HOST: '0.0.0.0',
    PORT: String(await freePort()),
  };
  const refused = startMarmot(env, /MARMOT_DEMONSTRATION=public/);
  expect(await refused.ready).toContain('password is known to everybody');
  await refused.end();
  const confirmed = startMarmot({ ...env, MARMOT_DEMONSTRATION: 'public' }, /Ctrl-C stops it/);
  expect(await confirmed.ready).toContain('Sign in as');
  await confirmed.end();
});
