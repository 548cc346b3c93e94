import { beforeEach, describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { RemindersResponse } from '../../contract/reminders.ts';
import { TEST_NOW } from '../../../tests/support/cluster.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { remind } from './index.ts';

const server = useServer();
const MINUTE = 60_000;
const NOW = Date.parse(TEST_NOW);

/** Looks for reminders as if it were another time; what came due before is done with. */
async function remindAt(now: number, since = now - 10_000): Promise<number> {
  await server.sql(`update setting set value = to_jsonb($1::float8) where key = 'reminded-until'`, [
    since,
  ]);
  return remind({ ...server.running.platform, clock: { now: () => now, fixed: true } });
}

const wall = (instant: number) => new Date(instant + 60 * MINUTE).toISOString().slice(0, 16);
const times = (start: number) => bergenTimes(wall(start), wall(start + 60 * MINUTE));

let day = 0;
/** Somebody's reminders of a meeting that begins at a time of its own, as they were found. */
const noticesOf = (eventId: string) =>
  server.sql<{ name: string; means: string; minutes: number }>(
    `select subject.name, means, minutes_before as minutes
     from reminder_notice
     join occurrence on occurrence.id = occurrence_id
     join subject on subject.id = person_id
     where event_id = $1 order by 1, 2, 3`,
    [eventId],
  );

let start: number;
beforeEach(() => {
  // Saturdays of 2028, when nothing of the demonstration is on.
  start = Date.UTC(2028, 0, 8 + 7 * day++, 9);
});

async function meeting(more: object = {}) {
  const ines = await server.as('ines.aldabe');
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({ title: `Reminded ${day}`, times: times(start), ...more }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

describe('reminders', () => {
  it('come to who takes part by what each chose, once, and not to who declined', async () => {
    const ids = await Promise.all(
      ['Leila Haddad', 'Hal Teague', 'Tomas Okafor'].map((name) => server.id(name)),
    );
    const event = await meeting({
      attendees: ids.map((personId) => ({ personId, role: 'required' })),
      reminders: [
        { minutes: 10, means: 'popup' },
        { minutes: 30, means: 'mail' },
      ],
    });
    const [leila, hal, tomas] = await Promise.all(
      ['leila.haddad', 'hal.teague', 'tomas.okafor'].map((who) => server.as(who)),
    );
    await leila!.request('PUT', `/api/events/${event.id}/mine`, {
      reminders: [{ minutes: 30, means: 'popup' }],
    });
    await tomas!.post(`/api/invitations/${event.id}/reply`, { reply: 'declined' });
    // Hal chose nothing: those of his preferences hold, and are said.
    const seen = await hal!.get<EventDetail>(`/api/events/${event.id}`);
    expect(seen.body.reminders).toEqual([{ minutes: 10, means: 'popup' }]);

    await remindAt(start - 30 * MINUTE);
    expect(await noticesOf(event.id)).toEqual([
      { name: 'Ines Aldabe', means: 'mail', minutes: 30 },
      { name: 'Leila Haddad', means: 'popup', minutes: 30 },
    ]);
    // Looked for again, and by two at once, there are no more.
    await remindAt(start - 30 * MINUTE, start - 40 * MINUTE);
    await Promise.all([remindAt(start - 10 * MINUTE), remindAt(start - 10 * MINUTE)]);
    expect((await noticesOf(event.id)).slice(1)).toEqual([
      { name: 'Ines Aldabe', means: 'mail', minutes: 30 },
      { name: 'Ines Aldabe', means: 'popup', minutes: 10 },
      { name: 'Leila Haddad', means: 'popup', minutes: 30 },
    ]);
    const letters = await server.sql<{ subject: string; body_text: string }>(
      `select subject, body_text from mail where subject like 'In %' and recipient_email = $1
         and body_text like $2`,
      ['ines.aldabe@ternrock.example', `Reminded ${day}%`],
    );
    expect(letters).toHaveLength(1);
    expect(letters[0]!.subject).toBe(`In 30 min: Reminded ${day}, 10:00`);
    expect(letters[0]!.body_text).toContain('Sat 8 Jan');
  });

  it('of a time without a server come late, and those of longer than a day ago not at all', async () => {
    const event = await meeting();
    await remindAt(start + 3 * 60 * MINUTE, start - 60 * MINUTE);
    expect(await noticesOf(event.id)).toHaveLength(1);
    start += 7 * 24 * 60 * MINUTE;
    day++;
    const later = await meeting();
    await remindAt(start + 30 * 60 * MINUTE, start - 60 * MINUTE);
    expect(await noticesOf(later.id)).toHaveLength(0);
  });

  it('are none of a meeting that was cancelled, and anew of one that was moved', async () => {
    const event = await meeting();
    await remindAt(start - 10 * MINUTE);
    const ines = await server.as('ines.aldabe');
    const open = async () =>
      (await ines.get<RemindersResponse>('/api/reminders')).body.reminders.filter(
        (one) => one.eventId === event.id,
      );
    expect(await open()).toMatchObject([
      { title: event.title, start, dueAt: start - 10 * MINUTE, recurrenceId: null },
    ]);
    const moved = await ines.patch<EventDetail>(`/api/events/${event.id}`, {
      version: event.version,
      times: times(start + 120 * MINUTE),
    });
    expect(await open()).toEqual([]);
    await remindAt(start + 110 * MINUTE);
    expect(await open()).toHaveLength(1);
    await ines.post(`/api/events/${event.id}/cancel`, { version: moved.body.version });
    expect(await open()).toEqual([]);
    const cancelled = await meeting();
    await ines.post(`/api/events/${cancelled.id}/cancel`, { version: cancelled.version });
    await remindAt(start - 10 * MINUTE);
    expect(await noticesOf(cancelled.id)).toEqual([]);
  });

  it('are put off and away by whose they are, one or all', async () => {
    // These begin soon, so that they are shown at the server's own time.
    const soon = (minutes: number) => times(NOW + minutes * MINUTE);
    const ines = await server.as('ines.aldabe');
    const made = await Promise.all([
      meeting({ times: soon(9), title: 'Soon one' }),
      meeting({ times: soon(9), title: 'Soon two' }),
    ]);
    await remindAt(NOW, NOW - 5 * MINUTE);
    const mine = async () =>
      (await ines.get<RemindersResponse>('/api/reminders')).body.reminders.filter((one) =>
        made.some(({ id }) => id === one.eventId),
      );
    const [one, two] = await mine();
    expect(one!.dueAt).toBe(NOW - MINUTE);
    await ines.post('/api/reminders/snooze', { reminders: [one!.id], until: 5 });
    expect((await mine()).find(({ id }) => id === one!.id)!.dueAt).toBe(NOW + 5 * MINUTE);
    await ines.post('/api/reminders/snooze', { reminders: [two!.id], until: 'start' });
    expect((await mine()).find(({ id }) => id === two!.id)!.dueAt).toBe(NOW + 9 * MINUTE);
    // What is not shown yet is not put away with the rest.
    await ines.post('/api/reminders/dismiss', { reminders: 'all' });
    expect(await mine()).toHaveLength(2);
    const other = await server.as('leila.haddad');
    await other.post('/api/reminders/dismiss', { reminders: [one!.id] });
    expect(await mine()).toHaveLength(2);
    await ines.post('/api/reminders/dismiss', { reminders: [one!.id, two!.id] });
    expect(await mine()).toHaveLength(0);
    const wrong = await ines.post<ProblemBody>('/api/reminders/snooze', {
      reminders: 'all',
      until: 0,
    });
    expect(wrong.body.fields![0]!.field).toBe('until');
  });
});
