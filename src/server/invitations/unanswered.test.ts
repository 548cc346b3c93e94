import { describe, expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { UnansweredList } from '../../contract/invitations.ts';
import { DAY } from '../../core/time/interval.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { MOST_MEETINGS_NAMED } from './limits.ts';
import { readUnanswered } from './queries.ts';

const NOW = Date.parse('2026-11-24T08:12Z');
const server = useServer({ works: false });

/** A meeting of Bartosz' with the people named, some days from now. */
async function ask(title: string, inDays: number, people: readonly string[], rule?: string) {
  const bartosz = await server.as('bartosz.zielinski');
  const date = new Date(NOW + inDays * DAY).toISOString().slice(0, 10);
  const made = await bartosz.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title,
      times: { startsAt: `${date}T13:00`, endsAt: `${date}T13:30`, zone: 'UTC', allDay: false },
      ...(rule && { repeats: { rule } }),
      attendees: await Promise.all(
        people.map(async (name) =>
          name.includes('@')
            ? { email: name, name: 'Jon Skau', role: 'optional' as const }
            : { personId: await server.id(name), role: 'required' as const },
        ),
      ),
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

const listed = async (mailbox: string) => {
  const me = await server.as(mailbox);
  return (await me.get<UnansweredList>('/api/replies/unanswered')).body;
};

describe('who has not answered', () => {
  it('is a list by person over all meetings, whoever owes most first, and not once they answer', async () => {
    const before = await listed('bartosz.zielinski');
    const owed = (name: string) => before.people.find((one) => one.name === name)?.waiting ?? 0;
    const kelp = await ask('Kelp', 30, ['Tomas Okafor', 'Leila Haddad', 'jon@harbour.example']);
    const nets = await ask('Nets', 20, ['Tomas Okafor'], 'FREQ=WEEKLY;COUNT=4');
    const { people, total } = await listed('bartosz.zielinski');
    expect(total).toBe(people.length);
    expect(people[0]).toMatchObject({ name: 'Tomas Okafor', waiting: owed('Tomas Okafor') + 2 });
    expect(people[0]!.meetings.map(({ title }) => title)).toEqual(
      expect.arrayContaining(['Nets', 'Kelp']),
    );
    const counts = people.map(({ never, waiting }) => never + waiting);
    expect(counts).toEqual([...counts].sort((one, other) => other - one));
    const leila = people.find(({ name }) => name === 'Leila Haddad')!;
    expect(leila).toMatchObject({ waiting: owed('Leila Haddad') + 1 });
    expect(people.find(({ name }) => name === 'Jon Skau')).toMatchObject({
      personId: null,
      email: 'jon@harbour.example',
      asked: 1,
      never: 0,
      waiting: 1,
    });
    const ofTomas = (await listed('tomas.okafor')).people.flatMap(({ meetings }) => meetings);
    expect(ofTomas.map(({ title }) => title)).not.toContain('Kelp');

    const tomas = await server.as('tomas.okafor');
    const reply = (id: string) => tomas.post(`/api/invitations/${id}/reply`, { reply: 'accepted' });
    expect((await reply(nets.id)).status).toBe(200);
    expect((await reply(kelp.id)).status).toBe(200);
    const after = await listed('bartosz.zielinski');
    expect(after.people.find(({ name }) => name === 'Tomas Okafor')?.waiting ?? 0).toBe(
      owed('Tomas Okafor'),
    );
    expect(after.people.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['Jon Skau', 'Leila Haddad']),
    );
  });

  it('counts what is over without an answer, for half a year, and nothing cancelled', async () => {
    await ask('Soon over', 5, ['Mika Sandoval']);
    await ask('Ahead', 60, ['Mika Sandoval']);
    const off = await ask('Off', 61, ['Mika Sandoval']);
    const bartosz = await server.as('bartosz.zielinski');
    const cancelled = await bartosz.post(`/api/events/${off.id}/cancel`, {
      version: off.version,
      scope: 'all',
    });
    expect(cancelled.status).toBe(200);
    const id = await server.id('Bartosz Zieliński');
    const inDays = async (days: number) =>
      (await readUnanswered(server.running.platform.pool, [id], NOW + days * DAY)).people.find(
        ({ name }) => name === 'Mika Sandoval',
      );
    expect(await inDays(30)).toMatchObject({ asked: 2, never: 1, waiting: 1 });
    expect((await inDays(30))!.meetings.map(({ title }) => title)).toEqual(['Ahead']);
    expect(await inDays(4)).toMatchObject({ asked: 2, never: 0, waiting: 2 });
    expect(await inDays(186)).toMatchObject({ asked: 1, never: 1, waiting: 0, since: null });
    expect(await inDays(300)).toBeUndefined();
  });

  it('names only the first few of what somebody owes', async () => {
    for (let day = 50; day < 50 + MOST_MEETINGS_NAMED + 2; day += 1)
      await ask(`Talk ${day}`, day, ['Oskar Lindqvist']);
    const oskar = (await listed('bartosz.zielinski')).people[0]!;
    expect(oskar).toMatchObject({ name: 'Oskar Lindqvist', waiting: MOST_MEETINGS_NAMED + 2 });
    expect(oskar.meetings.map(({ title }) => title)).toEqual(
      Array.from({ length: MOST_MEETINGS_NAMED }, (_, k) => `Talk ${50 + k}`),
    );
  });
});
