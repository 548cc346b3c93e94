import { beforeAll, describe, expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { eventually, useServer } from '../../../tests/support/server.ts';

/* Letters are held back for a moment, in which what they tell can be taken back. */

const server = useServer({}, 30);
let leila: number;
let hal: number;
beforeAll(async () => {
  leila = await server.id('Leila Haddad');
  hal = await server.id('Hal Teague');
});

const lettersOf = (id: string) =>
  server.sql<{ to: string; occasion: string; sent: boolean }>(
    `select split_part(recipient_email, '.', 1) as to, occasion, sent_at is not null as sent
     from mail where event_id = $1 order by version, recipient_email, occasion`,
    [id],
  );
const idsOf = async (id: string) =>
  (await server.sql<{ id: string }>('select id::text from mail where event_id = $1', [id])).map(
    (one) => one.id,
  );
const jobsOf = (letters: readonly string[]) =>
  server.sql(`select from job where kind = 'letter' and key = any($1)`, [letters]);

async function meet(title: string) {
  const ines = await server.as('ines.aldabe');
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title,
      attendees: [{ personId: leila, role: 'required' }],
      times: bergenTimes('2027-06-03T10:00', '2027-06-03T11:00'),
    }),
  );
  expect(made.status).toBe(201);
  return { ines, event: made.body, path: `/api/events/${made.body.id}` };
}

/** As if the moment had passed. */
async function letGo(id: string): Promise<void> {
  await server.sql(
    `update job set due_at = now() where kind = 'letter'
       and key in (select id::text from mail where event_id = $1)`,
    [id],
  );
  await eventually(async () => (await lettersOf(id)).every((one) => one.sent));
}

describe('letters that are held back', () => {
  it('do not leave when what they tell is cancelled or undone, and nothing else is told', async () => {
    const { ines, event, path } = await meet('Never mind');
    expect(await lettersOf(event.id)).toEqual([{ to: 'leila', occasion: 'invited', sent: false }]);
    const letters = await idsOf(event.id);
    expect(await jobsOf(letters)).toHaveLength(1);
    await ines.post(`${path}/cancel`, { version: event.version });
    expect(await lettersOf(event.id)).toEqual([]);
    expect(await jobsOf(letters)).toEqual([]);
  });

  it('of a change that is undone are as if they had never been; whoever knew it before hears nothing', async () => {
    const { ines, event, path } = await meet('Stays as it was');
    await letGo(event.id);
    const changed = await ines.patch<EventDetail>(path, {
      version: event.version,
      title: 'Is called otherwise',
      attendees: [
        { personId: leila, role: 'required' },
        { personId: hal, role: 'required' },
      ],
    });
    expect(await lettersOf(event.id)).toHaveLength(3);
    await ines.post(`${path}/undo`, { version: changed.body.version });
    expect(await lettersOf(event.id)).toEqual([{ to: 'leila', occasion: 'invited', sent: true }]);
  });

  it('do not keep a cancellation from those who know of the meeting', async () => {
    const { ines, event, path } = await meet('Known and cancelled');
    await letGo(event.id);
    const changed = await ines.patch<EventDetail>(path, {
      version: event.version,
      attendees: [
        { personId: leila, role: 'required' },
        { personId: hal, role: 'required' },
      ],
    });
    await ines.post(`${path}/cancel`, { version: changed.body.version });
    const letters = await lettersOf(event.id);
    expect(letters.filter((one) => one.to === 'hal')).toEqual([]);
    expect(letters.filter((one) => one.to === 'leila').map((one) => one.occasion)).toEqual([
      'invited',
      'cancelled',
    ]);
  });

  it('that have left are followed by one that takes them back', async () => {
    const { ines, event, path } = await meet('Gone already');
    await letGo(event.id);
    const changed = await ines.patch<EventDetail>(path, {
      version: event.version,
      times: bergenTimes('2027-06-03T14:00', '2027-06-03T15:00'),
    });
    await letGo(event.id);
    await ines.post(`${path}/undo`, { version: changed.body.version });
    expect((await lettersOf(event.id)).map((one) => one.occasion)).toEqual([
      'invited',
      'moved',
      'changed',
    ]);
  });

  it('to others stay when one date is cancelled or one person is asked no more', async () => {
    const ines = await server.as('ines.aldabe');
    const attendees = [
      { personId: leila, role: 'required' as const },
      { personId: hal, role: 'required' as const },
    ];
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'All but one',
        attendees,
        times: bergenTimes('2027-06-03T10:00', '2027-06-03T11:00'),
        repeats: { rule: 'FREQ=WEEKLY;COUNT=4' },
      }),
    );
    const path = `/api/events/${made.body.id}`;
    const occasions = async (to: string) =>
      (await lettersOf(made.body.id)).filter((one) => one.to === to).map((one) => one.occasion);
    const cancelled = await ines.post<EventDetail>(`${path}/cancel`, {
      version: made.body.version,
      scope: 'one',
      occurrence: '2027-06-10T10:00',
    });
    expect(cancelled.status).toBe(200);
    expect(await occasions('leila')).toEqual(['invited', 'cancelled']);
    const removed = await ines.patch<EventDetail>(path, {
      version: cancelled.body.version,
      attendees: attendees.slice(0, 1),
      tell: 'concerned',
    });
    expect(removed.status).toBe(200);
    // Hal never heard of it, and Leila is asked as before.
    expect(await occasions('hal')).toEqual([]);
    expect(await occasions('leila')).toEqual(['invited', 'cancelled']);
  });

  it('of a part of a series that is undone leave nothing, of what was split off neither', async () => {
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Split and whole again',
        attendees: [{ personId: leila, role: 'required' }],
        times: bergenTimes('2027-06-03T10:00', '2027-06-03T11:00'),
        repeats: { rule: 'FREQ=WEEKLY;COUNT=4' },
      }),
    );
    await letGo(made.body.id);
    const changed = await ines.patch<EventDetail & { undo?: { id: string; version: number } }>(
      `/api/events/${made.body.id}`,
      {
        version: made.body.version,
        scope: 'following',
        occurrence: '2027-06-10T10:00',
        times: bergenTimes('2027-06-10T14:00', '2027-06-10T15:00'),
      },
    );
    expect(changed.status).toBe(200);
    const undo = changed.body.undo ?? { id: changed.body.id, version: changed.body.version };
    const undone = await ines.post(`/api/events/${undo.id}/undo`, { version: undo.version });
    expect(undone.status).toBe(200);
    const occasions = async (id: string) => (await lettersOf(id)).map((one) => one.occasion);
    expect(await occasions(made.body.id)).toEqual(['invited']);
    expect(changed.body.id).not.toBe(made.body.id);
    expect(await occasions(changed.body.id)).toEqual([]);
  });
});
