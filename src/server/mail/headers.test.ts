import PostalMime from 'postal-mime';
import { expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();

it('letters about one meeting hang together, and ask no machine for an answer', async () => {
  const ines = await server.as('ines.aldabe');
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Threads',
      attendees: [{ email: 'jon@threads.example', role: 'required' }],
    }),
  );
  await ines.patch(`/api/events/${made.body.id}`, {
    version: made.body.version,
    times: bergenTimes('2026-12-11T10:00', '2026-12-11T11:00'),
  });
  const read = () =>
    server.sql<{ source: Buffer }>(
      `select source from mailroom_message where recipient = 'jon@threads.example'`,
    );
  await expect.poll(async () => (await read()).length, { timeout: 20_000 }).toBe(2);
  const letters = await Promise.all((await read()).map(({ source }) => PostalMime.parse(source)));
  const header = (name: string) =>
    letters.map((one) => one.headers.find((found) => found.key === name)?.value);
  expect(header('auto-submitted')).toEqual(['auto-generated', 'auto-generated']);
  const [first, second] = header('references');
  expect(first).toBe(second);
  expect(first).toContain(made.body.id);
  expect(header('in-reply-to')).toEqual([first, first]);
  expect(new Set(letters.map((one) => one.messageId)).size).toBe(2);
});
