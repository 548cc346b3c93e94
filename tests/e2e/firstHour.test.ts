import { expect, test, type Page } from '@playwright/test';
import PostalMime from 'postal-mime';
import { TEST_NOW } from '../support/cluster.ts';
import { mailSink } from '../support/mailSink.ts';
import { freePort } from '../support/port.ts';
import { hindrances, isGrave } from './hindrances.ts';
import { startMarmot, withEmptyDatabase } from './startedMarmot.ts';

/** So many actions lead from an empty database to the second person's accepted meeting with a room. */
const MOST_ACTIONS = 25;

test('from an empty database to the accepted meeting of a second person with a room', async ({
  page,
  browser,
}) => {
  test.setTimeout(400_000);
  const mail = await mailSink();
  await withEmptyDatabase('marmot_first_hour', async (url) => {
    const port = String(await freePort());
    const base = `http://localhost:${port}`;
    const server = startMarmot(
      {
        MARMOT_DATABASE_URL: url,
        PORT: port,
        MARMOT_NOW: TEST_NOW,
        MARMOT_SMTP_URL: mail.url,
        MARMOT_HOLD_SECONDS: '0',
      },
      /\/welcome#\S+\n/,
    );
    let actions = 0;
    const act = async (work: Promise<unknown>) => {
      actions++;
      await work;
    };
    const noHindrance = async (of: Page) =>
      expect((await hindrances(of)).filter(isGrave)).toEqual([]);
    try {
      const link = /http\S+\/welcome#\S+/.exec(await server.ready)![0];
      await page.goto(link);
      await act(page.getByLabel('Organization').fill('Harbour Works'));
      await act(page.getByLabel('City of its first site').fill('Bergen'));
      await act(page.getByLabel('Your name').fill('Morag Sinclair'));
      await act(page.getByLabel('Mail address').fill('morag@harbour.example'));
      await act(page.getByLabel('Password').fill('seven quiet herons'));
      await act(page.getByRole('button', { name: 'Create and sign in' }).click());

      // The first hour: a site that is right as it is, people, places, mail.
      const steps = page.getByRole('navigation', { name: 'Steps' });
      await expect(steps.getByText('Five steps, in any order. One is done.')).toBeVisible();
      await expect(page.getByRole('heading', { name: 'Where do you work?' })).toBeVisible();
      await noHindrance(page);
      await act(page.getByRole('button', { name: 'Keep and go on' }).click());
      await expect(page.getByRole('heading', { name: 'Who works here?' })).toBeVisible();
      await act(
        page.getByLabel('What you pasted').fill('Staff:\nYuki Tanaka (Osaka) yuki@tanaka,example'),
      );
      const doubt = page.getByRole('group', { name: 'Line 2 is doubtful' });
      await expect(doubt).toContainText('yuki@tanaka.example?');
      await noHindrance(page);
      await act(doubt.getByRole('button', { name: 'Take it' }).click());
      const understood = page.getByRole('region', { name: 'What was understood' });
      await expect(understood).toContainText('1 person, all new');
      await expect(understood).toContainText('Tokyo');
      await act(page.getByRole('button', { name: 'Invite 1 person' }).click());
      await expect(page.getByRole('heading', { name: 'What do you share?' })).toBeVisible();
      await act(page.getByLabel('Places in your words').fill('Gannet 8 and two desks'));
      await noHindrance(page);
      await act(page.getByRole('button', { name: 'Add 3 places' }).click());
      await expect(page.getByRole('heading', { name: 'Do letters arrive?' })).toBeVisible();
      await expect(page.getByText('1 letter waits for it')).toBeVisible();
      expect(mail.taken).toEqual([]);
      await act(page.getByRole('button', { name: 'Write me a letter' }).click());
      await act(page.getByRole('button', { name: 'It has arrived' }).click({ timeout: 30_000 }));
      expect(mail.taken.map((one) => one.to)).toContain('morag@harbour.example');
      await expect(page.getByRole('heading', { name: 'Administration' })).toBeVisible();

      // The second person comes by their letter, on a phone elsewhere.
      await expect
        .poll(() => mail.taken.some((one) => one.to === 'yuki@tanaka.example'), { timeout: 30_000 })
        .toBe(true);
      const letter = mail.taken.find((one) => one.to === 'yuki@tanaka.example')!;
      const { text = '' } = await PostalMime.parse(letter.source);
      const way = /http\S+\/account\/link#[\w-]+/.exec(text)![0];
      const phone = await browser.newContext({
        viewport: { width: 390, height: 844 },
        timezoneId: 'Asia/Tokyo',
        hasTouch: true,
      });
      const yuki = await phone.newPage();
      await act(yuki.goto(way));
      await expect(yuki.getByText('in Tokyo. Is that right?')).toBeVisible();
      await noHindrance(yuki);
      await act(yuki.getByLabel('Choose a password').fill('nine loud herons'));
      await act(yuki.getByRole('button', { name: 'Come in' }).tap());
      await expect(yuki.getByRole('button', { name: 'Yuki', exact: true })).toBeVisible();

      // A meeting with a room, said as one says it.
      await page.goto(base);
      await act(
        page
          .getByPlaceholder(/^Find, or say it/)
          .fill('kelp review with Yuki tomorrow 10:00 in Gannet'),
      );
      await act(page.keyboard.press('Enter'));
      await act(page.getByRole('button', { name: /^Send to 1 person, hold Gannet/ }).click());
      await expect(page).toHaveURL(/\/replies/);
      await act(yuki.getByRole('button', { name: 'Accept', exact: true }).first().tap());
      await expect(yuki.getByText('You have answered everything')).toBeVisible();
      const replies = await page.request.get(`${base}/api/replies?limit=5`);
      expect(await replies.text()).toContain('"reply":"accepted"');
      expect(actions).toBeLessThanOrEqual(MOST_ACTIONS);
      await phone.close();
    } finally {
      await server.end();
    }
  });
  await mail.end();
});
