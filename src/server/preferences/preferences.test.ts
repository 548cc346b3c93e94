import { describe, expect, it } from 'vitest';
import type { BusyResponse } from '../../contract/availability.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { SessionState } from '../../contract/session.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
const session = async (mailbox: string) =>
  (await (await server.as(mailbox)).get<SessionState>('/api/session')).body;

describe('preferences', () => {
  it('are all kept when two windows change different ones at the same moment', async () => {
    const hal = await server.as('hal.teague');
    const change = (body: object) => hal.patch('/api/preferences', body);
    for (let round = 0; round < 8; round++) {
      const firstWeekday = 1 + (round % 7);
      const defaultMinutes = 15 + round;
      const answers = await Promise.all([
        change({ firstWeekday }),
        change({ defaultMinutes }),
        change({ clock: round % 2 ? '12' : '24' }),
      ]);
      expect(answers.map((one) => one.status)).toEqual([200, 200, 200]);
      const body = await session('hal.teague');
      expect(body.preferences).toMatchObject({ firstWeekday, defaultMinutes });
      expect(body.me!.clock).toBe(round % 2 ? '12' : '24');
    }
  });

  it('hold at once, for me and in what others see of my hours', async () => {
    const idris = await server.as('idris.kaya');
    const nights = [[{ start: 1200, end: 1680 }], [], [], [], [], [], []];
    const answer = await idris.patch('/api/preferences', {
      zone: 'Asia/Kolkata',
      furtherZones: ['Europe/Oslo'],
      clock: '12',
      firstWeekday: 7,
      hours: nights,
      shownFrom: 0,
      shownTo: 1440,
      defaultMinutes: 50,
      shiftMinutes: 60,
      defaultReminders: [{ minutes: 5, means: 'mail' }],
      arrangement: 'rows',
      hearing: { changes: 'daily' },
    });
    expect(answer.status).toBe(200);
    const { me, preferences } = await session('idris.kaya');
    expect(me).toMatchObject({ zone: 'Asia/Kolkata', furtherZones: ['Europe/Oslo'], clock: '12' });
    expect(preferences).toEqual({
      firstWeekday: 7,
      hours: nights,
      shownFrom: 0,
      shownTo: 1440,
      defaultMinutes: 50,
      shiftMinutes: 60,
      defaultReminders: [{ minutes: 5, means: 'mail' }],
      arrangement: 'rows',
      hearing: {
        invitations: 'now',
        changes: 'daily',
        answers: 'now',
        'other-times': 'now',
        comments: 'now',
        mentions: 'now',
        places: 'now',
      },
    });
    const made = await idris.post<EventDetail>('/api/events', meetingRequest());
    expect(made.body.reminders).toEqual([{ minutes: 5, means: 'mail' }]);
    const ines = await server.as('ines.aldabe');
    const busy = await ines.post<BusyResponse>('/api/availability/busy', {
      subjects: [me!.id],
      from: 0,
      to: 1,
    });
    expect(busy.body.subjects[0]).toMatchObject({ zone: 'Asia/Kolkata', hours: nights });
  });

  it.each([
    [{ zone: 'Mars/Olympus' }, 'zone'],
    [{ firstWeekday: 8 }, 'firstWeekday'],
    [{ shownFrom: 1000, shownTo: 1010 }, 'shownTo'],
    [{ hours: [] }, 'hours'],
    [{ hours: [[{ start: 600, end: 500 }], [], [], [], [], [], []] }, 'hours.0.0.end'],
    [
      {
        hours: [
          [
            { start: 480, end: 720 },
            { start: 700, end: 900 },
          ],
          [],
          [],
          [],
          [],
          [],
          [],
        ],
      },
      'hours.0',
    ],
    [{ defaultMinutes: 2 }, 'defaultMinutes'],
    [{ shiftMinutes: 241 }, 'shiftMinutes'],
    [
      { defaultReminders: Array.from({ length: 6 }, (_, k) => ({ minutes: k, means: 'popup' })) },
      'defaultReminders',
    ],
    [{ hearing: { changes: 'weekly' } }, 'hearing.changes'],
    [{ favouriteBird: 'tern' }, 'favouriteBird'],
  ])('%j is refused and nothing is kept', async (change, field) => {
    const before = await session('clara.weiss');
    const clara = await server.as('clara.weiss');
    const answer = await clara.patch<ProblemBody>('/api/preferences', { clock: '12', ...change });
    expect(answer.status).toBe(400);
    expect(answer.body.fields![0]!.field).toBe(field);
    expect(await session('clara.weiss')).toEqual(before);
  });
});

describe('categories', () => {
  it('are made, renamed and removed, each name once', async () => {
    const clara = await server.as('clara.weiss');
    const request = { name: 'Ice camp', colour: 'slate', pattern: 'checks' };
    interface List {
      categories: { id: number; name: string; pattern: string }[];
    }
    const made = await clara.post<List>('/api/categories', request);
    const { id } = made.body.categories.find((one) => one.name === 'Ice camp')!;
    const twice = await clara.post<ProblemBody>('/api/categories', request);
    expect(twice.body.fields![0]!.field).toBe('name');
    const renamed = await clara.patch<List>(`/api/categories/${id}`, {
      ...request,
      name: 'Camp',
      pattern: 'dots',
    });
    expect(renamed.body.categories).toContainEqual(
      expect.objectContaining({ id, name: 'Camp', pattern: 'dots' }),
    );
    const other = await server.as('ines.aldabe');
    expect((await other.request('DELETE', `/api/categories/${id}`)).status).toBe(404);
    const gone = await clara.request<List>('DELETE', `/api/categories/${id}`);
    expect(gone.body.categories.map((one) => one.id)).not.toContain(id);
  });
});
