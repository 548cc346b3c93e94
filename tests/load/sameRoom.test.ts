import { expect, it } from 'vitest';
import type { ProblemBody } from '../../src/contract/common.ts';
import { addDays } from '../../src/core/time/wall.ts';
import { often } from '../support/effort.ts';
import { bergenTimes, meetingRequest } from '../support/requests.ts';
import { useServer } from '../support/server.ts';

const CLIENTS = 32;
const ROUNDS = often(50);

const server = useServer();

it('of 32 clients who want the same room at once, exactly one gets it, over and over', async () => {
  const room = await server.id('Gannet');
  const mailboxes = await server.sql<{ mailbox: string }>(
    `select split_part(email, '@', 1) as mailbox from person
     where password_hash is not null order by subject_id limit $1`,
    [CLIENTS],
  );
  const clients = await Promise.all(mailboxes.map(({ mailbox }) => server.as(mailbox)));
  expect(clients).toHaveLength(CLIENTS);
  for (let round = 0; round < ROUNDS; round++) {
    const day = addDays('2027-03-01', round);
    const answers = await Promise.all(
      clients.map((client, k) => {
        // All these times share the quarter hour from 10:45 to 11:00.
        const times = bergenTimes(
          `${day}T10:${String(k % 4).padStart(2, '0')}`,
          `${day}T11:${String(k % 5).padStart(2, '0')}`,
        );
        return client.post<ProblemBody & { alternatives: unknown[] }>(
          '/api/events',
          meetingRequest({ title: `Round ${round}`, times, resources: [room] }),
        );
      }),
    );
    expect(answers.filter((answer) => answer.status === 201)).toHaveLength(1);
    const refused = answers.filter((answer) => answer.status === 409);
    expect(refused).toHaveLength(CLIENTS - 1);
    for (const { body } of refused) {
      expect(body.code).toBe('resource-taken');
      expect(body.alternatives).toHaveLength(3);
    }
  }
  const overlapping = await server.sql(
    `select 1 from claim one join claim other
       on one.subject_id = other.subject_id and one.unit = other.unit and one.id < other.id
      and one.during && other.during
     where one.exclusive and other.exclusive`,
  );
  expect(overlapping).toHaveLength(0);
  expect(await server.sql(`select 1 from event where title like 'Round %'`)).toHaveLength(ROUNDS);
}, 120_000);
