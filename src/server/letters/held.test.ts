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
    // She was not asked yet, and is asked without that date.
    expect(await occasions('leila')).toEqual(['invited']);
    const [{ calendar }] = (await server.sql<{ calendar: string }>(
      `select calendar from mail where event_id = $1 and recipient_email like 'leila%'`,
      [made.body.id],
    )) as [{ calendar: string }];
    expect(calendar).toContain('EXDATE;TZID=Europe/Oslo:20270610T100000');
    const removed = await ines.patch<EventDetail>(path, {
      version: cancelled.body.version,
      attendees: attendees.slice(0, 1),
      tell: 'concerned',
    });
    expect(removed.status).toBe(200);
    // Hal never heard of it, and Leila is asked as before.
    expect(await occasions('hal')).toEqual([]);
    expect(await occasions('leila')).toEqual(['invited']);
  });

  it('say what is so when they leave: a title that went and came back is none of it', async () => {
    const { ines, event, path } = await meet('As it was');
    await letGo(event.id);
    const titled = await ines.patch<EventDetail>(path, {
      version: event.version,
      title: 'Otherwise',
    });
    const moved = await ines.patch<EventDetail>(path, {
      version: titled.body.version,
      times: bergenTimes('2027-06-03T14:00', '2027-06-03T15:00'),
      message: 'Sorry',
    });
    await ines.patch(path, { version: moved.body.version, title: 'As it was' });
    const rows = await server.sql<{ subject: string; text: string; calendar: string }>(
      `select subject, body_text as text, calendar from mail
       where event_id = $1 and sent_at is null`,
      [event.id],
    );
    expect(rows).toHaveLength(1);
    expect(rows[0]!.calendar).toContain('SUMMARY:As it was');
    expect(rows[0]!.calendar).toContain('DTSTART:20270603T120000Z');
    expect(rows[0]!.text).toContain('Sorry');
    expect(rows[0]!.text).not.toContain('Otherwise');
  });

  it('say no time that was taken back, and nothing where nothing is left', async () => {
    const { ines, event, path } = await meet('One of its dates');
    await ines.patch(path, { version: event.version, repeats: { rule: 'FREQ=WEEKLY;COUNT=3' } });
    await letGo(event.id);
    const one = { scope: 'one', occurrence: '2027-06-10T10:00' };
    const moved = await ines.patch<EventDetail>(path, {
      version: event.version + 1,
      ...one,
      times: bergenTimes('2027-06-10T14:00', '2027-06-10T15:00'),
    });
    const titled = await ines.patch<EventDetail>(path, {
      version: moved.body.version,
      ...one,
      title: 'With a name',
    });
    const held = () =>
      server.sql<{ calendar: string }>(
        'select calendar from mail where event_id = $1 and sent_at is null',
        [event.id],
      );
    expect((await held())[0]!.calendar).toContain('T120000Z');
    await ines.patch(path, {
      version: titled.body.version,
      ...one,
      times: bergenTimes('2027-06-10T10:00', '2027-06-10T11:00'),
    });
    const [letter, ...more] = await held();
    expect(more).toEqual([]);
    expect(letter!.calendar).toContain('SUMMARY:With a name');
    expect(letter!.calendar).not.toContain('T120000Z');
    await ines.patch(path, { version: titled.body.version + 1, ...one, title: 'One of its dates' });
    expect(await held()).toEqual([]);
  });

  it('tell whoever was taken out before it was cancelled that they are not expected', async () => {
    const { ines, event, path } = await meet('Out, then off');
    await letGo(event.id);
    const out = await ines.patch<EventDetail>(path, {
      version: event.version,
      attendees: [{ personId: hal, role: 'required' }],
    });
    const off = await ines.post(`${path}/cancel`, { version: out.body.version });
    expect([out.status, off.status, off.body]).toMatchObject([200, 200, {}]);
    const rows = await server.sql<{ to: string; method: string }>(
      `select split_part(recipient_email, '.', 1) as to, method from mail
       where event_id = $1 and sent_at is null`,
      [event.id],
    );
    expect(rows).toEqual([{ to: 'leila', method: 'CANCEL' }]);
  });

  it('leave in the order in which they were written', async () => {
    const { ines, event, path } = await meet('In order');
    await ines.patch(path, { version: event.version, repeats: { rule: 'FREQ=WEEKLY;COUNT=9' } });
    await letGo(event.id);
    let version = event.version + 1;
    for (const day of ['10', '17', '24']) {
      const { body } = await ines.patch<EventDetail>(path, {
        version,
        scope: 'one',
        occurrence: `2027-06-${day}T10:00`,
        title: `The ${day}th`,
      });
      version = body.version;
    }
    await letGo(event.id);
    const rows = await server.sql<{ subject: string }>(
      'select subject from mail where event_id = $1 order by sent_at, number',
      [event.id],
    );
    const sent = await server.sql<{ subject: string }>(
      `select mail.subject from mailroom_message join mail on mail.id = mail_id
       where event_id = $1 order by mailroom_message.received_at, mailroom_message.id`,
      [event.id],
    );
    expect(rows).toHaveLength(5 - 1);
    expect(sent).toHaveLength(4);
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
    // Not even as one that names no meeting any more.
    const left = await server.sql(
      `select subject from mail where subject like '%Split and whole again%' and sent_at is null`,
    );
    expect(left).toEqual([]);
  });
});
